import { addressed, addressOf, isStep } from './address';
import { NO_FILTER, type CullFilter } from './cullFilter';
import { reduceCull, START } from './cullState';

const filter: CullFilter = {
  ...{ verdicts: ['keep'], stars: { kind: 'atLeast', n: 3 }, text: 'a&b=c' },
  chosen: { body: ['Ockham Five'], lens: [null] },
};

describe('the address of a look', () => {
  it('brings back view, frame and filter', () => {
    for (const look of [
      { view: 'sheet' as const, filter },
      { view: 'single' as const, filter: NO_FILTER },
    ])
      expect(addressed(addressOf(look, 'F1'))).toEqual({ ...look, current: 'F1' });
    expect(addressed(addressOf({ view: 'run', filter }, null))).toEqual({
      view: 'single',
      filter,
      current: null,
    });
  });

  it('that names a frame alone shows it unfiltered, and one that names nothing asks for nothing', () => {
    expect(addressed('?frame=F2')).toEqual({ view: 'single', current: 'F2', filter: NO_FILTER });
    expect(addressed('')).toBeNull();
    expect(addressed('?job=3')).toBeNull();
  });

  it('may name a pass that one comes with; without, the one that there was stays', () => {
    expect(addressed('?view=single&frame=F2&pass=P1')).toMatchObject({ current: 'F2', pass: 'P1' });
    expect(addressed('?view=single&frame=F2')).not.toHaveProperty('pass');
    const going = { ...START, pass: 'P0' };
    const come = (search: string) => reduceCull(going, { type: 'address', ...addressed(search)! }).pass;
    expect([come('?frame=F2&pass=P1'), come('?frame=F2')]).toEqual(['P1', 'P0']);
  });

  it.each(['{', 'null', '[]', '{"verdicts":3}', '{"stars":null}', '7'])('takes %s for no filter', (text) => {
    expect(addressed(`?view=sheet&filter=${encodeURIComponent(text)}`)?.filter).toEqual(NO_FILTER);
  });

  it('is a step back for another view or filter, not for another frame, and not where it said nothing before', () => {
    const at = (view: 'single' | 'sheet', its: CullFilter, frame: string) =>
      addressOf({ view, filter: its }, frame);
    expect(isStep(at('single', filter, 'F1'), at('single', filter, 'F2'))).toBe(false);
    expect(isStep(at('single', filter, 'F1'), at('sheet', filter, 'F1'))).toBe(true);
    expect(isStep(at('single', filter, 'F1'), at('single', NO_FILTER, 'F1'))).toBe(true);
    expect(isStep('', at('sheet', filter, 'F1'))).toBe(false);
    expect(isStep('?frame=F1', at('single', NO_FILTER, 'F1'))).toBe(false);
  });
});
