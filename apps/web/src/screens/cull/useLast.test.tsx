/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import { useLast } from './useLast';

interface Choice {
  id: string;
  name: string;
}
const [one, other]: [Choice, Choice] = [
  { id: 'a', name: 'One' },
  { id: 'b', name: 'Other' },
];
const shown = (choices: readonly Choice[]) =>
  renderHook(({ list }) => useLast('test.last', list), { initialProps: { list: choices } });

describe('what was chosen last', () => {
  beforeEach(() => localStorage.clear());

  it('stays chosen in the next shoot, by its name of now', () => {
    const first = shown([one, other]);
    act(() => first.result.current[1](other));
    const next = shown([one, { ...other, name: 'Renamed' }]);
    expect(next.result.current[0]).toEqual({ id: 'b', name: 'Renamed' });
  });

  it('is there at once where it was only just made', () => {
    const { result, rerender } = shown([one]);
    act(() => result.current[1](other));
    expect(result.current[0]).toBe(other);
    rerender({ list: [one, other] });
    expect(result.current[0]).toBe(other);
  });

  it('is gone where it was taken away since', () => {
    const { result, rerender } = shown([one, other]);
    act(() => result.current[1](other));
    rerender({ list: [one] });
    expect(result.current[0]).toBeNull();
  });
});
