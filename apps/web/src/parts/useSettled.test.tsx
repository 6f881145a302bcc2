import { act } from 'react';
import { createRoot } from 'react-dom/client';
import { useSettled } from './useSettled';

Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });

describe('a value that settles', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  /** What the hook gave after each rendering with another text. */
  function shown(millis: number) {
    const seen: string[] = [];
    function Probe({ text }: { text: string }) {
      const settled = useSettled(text, millis);
      if (seen.at(-1) !== settled) seen.push(settled);
      return null;
    }
    const root = createRoot(document.createElement('div'));
    return { seen, say: (text: string) => act(() => root.render(<Probe text={text} />)) };
  }

  it('follows when nothing changed for a while, and skips what was only passed through', () => {
    const { seen, say } = shown(150);
    for (const text of ['', 'R', 'Re', 'Reg']) {
      say(text);
      act(() => void jest.advanceTimersByTime(149));
    }
    expect(seen).toEqual(['']);
    act(() => void jest.advanceTimersByTime(1));
    expect(seen).toEqual(['', 'Reg']);
  });

  it('is the value itself where nothing is to be waited for', () => {
    const { seen, say } = shown(0);
    for (const text of ['a', 'b', 'c']) say(text);
    expect(seen).toEqual(['a', 'b', 'c']);
  });
});
