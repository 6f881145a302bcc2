import { Missed } from './missed';

describe('events that fall between loading and listening', () => {
  it('are noticed when an answer is older than the beginning of the stream', () => {
    const missed = new Missed();
    expect(missed.answered('A-8')).toBe(false);
    expect(missed.answered('A-7')).toBe(false);
    expect(missed.begins('A-8')).toBe(true);
  });

  it('are noticed when an answer that was asked for earlier comes after the stream began', () => {
    const missed = new Missed();
    expect(missed.begins('A-8')).toBe(false);
    expect(missed.answered('A-9')).toBe(false);
    expect(missed.answered('A-7')).toBe(true);
  });

  it('are none when nothing happened in between: nothing is loaded twice', () => {
    const missed = new Missed();
    expect(missed.answered('A-8')).toBe(false);
    expect(missed.begins('A-8')).toBe(false);
    expect(missed.answered('A-8')).toBe(false);
  });

  it('are left to the stream’s own reset when the server was started anew, also after ten events', () => {
    const missed = new Missed();
    missed.answered('A-9');
    expect(missed.begins('A-10')).toBe(true);
    const other = new Missed();
    other.answered('A-9');
    expect(other.begins('B-10')).toBe(false);
    // The stream's second beginning, after a break, brings what was missed by itself.
    expect(other.begins('B-12')).toBe(false);
  });
});
