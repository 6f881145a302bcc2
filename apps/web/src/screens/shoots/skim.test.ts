import { frameAtX, windowOf } from './skim';

describe('passing over a shoot', () => {
  it('goes through all of its frames from one end of the strip to the other', () => {
    const seen = Array.from({ length: 1001 }, (_, x) => frameAtX(x / 1000, 240));
    expect(new Set(seen).size).toBe(240);
    expect([seen[0], seen.at(-1)]).toEqual([0, 239]);
    expect(frameAtX(-0.1, 3)).toBe(0);
  });

  it('shows the frame where the pointer is, among those before and after it', () => {
    for (let at = 0; at < 90; at++) {
      const shown = windowOf(at, 90, 6);
      expect(shown).toHaveLength(6);
      // The place of the strip that the pointer is over.
      expect(shown.indexOf(at)).toBe(Math.floor((at / 90) * 6));
      expect(shown).toEqual([...shown].sort((a, b) => a - b));
    }
  });

  it('shows all of a shoot that has fewer frames than the strip has places', () => {
    expect([windowOf(0, 1, 6), windowOf(2, 4, 6), windowOf(0, 0, 6)]).toEqual([[0], [0, 1, 2, 3], []]);
  });
});
