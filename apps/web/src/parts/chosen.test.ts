import { all, FIRST, meant, pick, placeOf, step, type Chosen, type Order } from './chosen';

const orderOf = (text: string): Order => ({
  length: text.length,
  id: (place) => text[place],
  placeOf: (id) => text.indexOf(id),
});
const order = orderOf('abcdef');
const ids = (chosen: Chosen, its = order) => meant(chosen, its).join('');

describe('what is chosen on a sheet', () => {
  it('is the first frame before anything was chosen, and nothing where there is none', () => {
    expect(ids(FIRST)).toBe('a');
    expect(ids(FIRST, orderOf(''))).toBe('');
    expect(step(FIRST, orderOf(''), 1, false)).toBe(FIRST);
  });

  it('goes by steps, and takes along what lies between where it is asked to', () => {
    const two = step(FIRST, order, 2, false);
    expect(ids(two)).toBe('c');
    const on = step(step(two, order, 1, true), order, 1, true);
    expect(ids(on)).toBe('cde');
    // Back over where it began.
    expect(ids(step(on, order, -4, true))).toBe('abc');
    expect(ids(step(on, order, 99, false))).toBe('f');
  });

  it('takes frames in and out one by one', () => {
    const three = pick(pick(pick(FIRST, order, 'e', 'only'), order, 'b', 'toggle'), order, 'c', 'toggle');
    expect(ids(three)).toBe('bce');
    expect(ids(pick(three, order, 'c', 'toggle'))).toBe('be');
    expect(ids(pick(three, order, 'f', 'range'))).toBe('cdef');
    expect(ids(all(three, order))).toBe('abcdef');
    expect(ids(pick(three, order, 'd', 'only'))).toBe('d');
  });

  it('leaves out what is not shown any more', () => {
    const chosen = pick(pick(FIRST, order, 'b', 'only'), order, 'e', 'toggle');
    const fewer = orderOf('acde');
    expect(ids(chosen, fewer)).toBe('e');
    expect(placeOf(pick(FIRST, order, 'b', 'only'), fewer)).toBe(0);
  });
});
