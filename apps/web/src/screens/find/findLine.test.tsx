import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { FindLine } from './FindLine';

/** What the archive suggests comes when the test lets it. */
describe('the line of Find', () => {
  const asked: { line: string; answer: (list: object[]) => Promise<void> }[] = [];
  beforeEach(() => {
    asked.length = 0;
    global.fetch = jest.fn((at: string) => {
      const line = new URL(at, 'http://here').searchParams.get('line')!;
      return new Promise((resolve) => {
        const answer = async (list: object[]) => {
          resolve({ ok: true, status: 200, headers: new Headers(), text: async () => JSON.stringify(list) });
          await act(async () => {});
        };
        asked.push({ line, answer });
      });
    }) as unknown as typeof fetch;
  });
  const done = jest.fn();
  function Held() {
    const [line, setLine] = useState('');
    return <FindLine line={line} field={null} onLine={setLine} onDone={done} />;
  }
  const field = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'What is looked for' });
  const options = () => screen.queryAllByRole('option').map(({ textContent }) => textContent);
  const heron = { kind: 'keyword', words: 'heron', line: 'keyword=heron', count: 3 };
  const herring = { kind: 'word', words: 'herring', line: 'herring', count: 1 };

  it('suggests what the archive has that begins like its last word, and puts what is chosen in its place', async () => {
    render(<Held />);
    await userEvent.type(field(), 'fish her');
    await asked.at(-1)!.answer([heron, herring]);
    expect(options()).toEqual(['heronkeyword3', 'herring1']);
    await userEvent.keyboard('{ArrowDown}{ArrowDown}{ArrowUp}{Enter}');
    expect(field().value).toBe('fish keyword=heron ');
    expect(options()).toEqual([]);
    expect(done).not.toHaveBeenCalled();
  });

  it('stays closed once something is chosen, also where an answer for the line as it is then comes late', async () => {
    render(<Held />);
    await userEvent.type(field(), 'her');
    await asked.at(-1)!.answer([heron]);
    await userEvent.click(screen.getByRole('option', { name: /heron/ }));
    expect(field().value).toBe('keyword=heron ');
    for (const { answer } of asked) await answer([heron]);
    expect(options()).toEqual([]);
    // The next word is suggested for again.
    await userEvent.type(field(), 'h');
    await asked.at(-1)!.answer([herring]);
    expect(options()).toEqual(['herring1']);
  });

  it('takes no answer for what was typed before', async () => {
    render(<Held />);
    await userEvent.type(field(), 'he');
    const [first, second] = asked.slice(-2);
    await second!.answer([heron]);
    await first!.answer([herring]);
    expect(options()).toEqual(['heronkeyword3']);
  });

  it('closes at Escape and where the hand goes elsewhere, and Enter then goes on to what was found', async () => {
    render(<Held />);
    await userEvent.type(field(), 'he');
    await asked.at(-1)!.answer([heron]);
    await userEvent.keyboard('{Escape}');
    expect(options()).toEqual([]);
    expect(field().value).toBe('he');
    await userEvent.keyboard('{Enter}');
    expect(done).toHaveBeenCalledTimes(1);
    await userEvent.type(field(), 'r');
    await asked.at(-1)!.answer([heron]);
    expect(options()).toHaveLength(1);
    await userEvent.tab();
    expect(options()).toEqual([]);
  });
});
