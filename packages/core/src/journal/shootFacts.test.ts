import { isShootFact, shootFactOf, shootOperations } from './shootFacts';

describe('what is said of a shoot as a whole', () => {
  it('is a line, and its title is always there', () => {
    expect(isShootFact('title', 'Harbour regatta')).toBe(true);
    expect(isShootFact('client', '')).toBe(true);
    for (const wrong of ['', ' regatta', 'two\nlines', 'x'.repeat(121), null, 7])
      expect([wrong, isShootFact('title', wrong)]).toEqual([wrong, false]);
  });

  it('is changed by operations of one group, one for each fact that is another', () => {
    let n = 0;
    const stamp = { newId: () => `id-${(n += 1)}`, at: 7, window: 'files' };
    const was = { title: 'Harbour regata', client: '', place: 'Pier' };
    const made = shootOperations(
      's',
      was,
      { title: 'Harbour regatta', client: 'Trust', place: 'Pier' },
      stamp,
    );
    expect(made.map(({ kind, subject, from, to }) => [kind, subject, from, to])).toEqual([
      ['shoot title', 's', 'Harbour regata', 'Harbour regatta'],
      ['shoot client', 's', '', 'Trust'],
    ]);
    expect(new Set(made.map(({ group }) => group)).size).toBe(1);
    expect(shootOperations('s', was, {}, stamp)).toEqual([]);
    expect(made.map(({ kind }) => shootFactOf(kind))).toEqual(['title', 'client']);
    expect([shootFactOf('title'), shootFactOf('text title'), shootFactOf('shoot folder')]).toEqual([
      null,
      null,
      null,
    ]);
  });
});
