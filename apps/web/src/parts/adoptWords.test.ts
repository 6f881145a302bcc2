import { adoptedState, RULE_WORDS } from './adoptWords';

describe('how an adopted folder stands', () => {
  const quiet = { busy: false, shoots: 2, frames: 1200, unread: 0, trouble: null };

  it('says how much of it is in the archive, and what is still to be read', () => {
    expect(adoptedState(quiet)).toBe('1,200 frames in 2 shoots');
    expect(adoptedState({ ...quiet, unread: 40 })).toBe(
      '1,200 frames in 2 shoots · 40 of its files were not read whole yet',
    );
  });

  it('says that it is being looked at, and nothing more where something is in the way', () => {
    expect(adoptedState({ ...quiet, busy: true, unread: 40 })).toBe(
      '1,200 frames in 2 shoots · being looked at now',
    );
    expect(adoptedState({ ...quiet, frames: 0, busy: true, trouble: 'The folder is not there.' })).toBe(
      'no frames',
    );
  });

  it('has words for each rule', () => {
    for (const [name, said] of Object.values(RULE_WORDS))
      expect([name !== '', said !== '']).toEqual([true, true]);
  });
});
