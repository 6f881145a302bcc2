import { jobAhead } from './lanes';

const job = (
  id: string,
  change: { bulk?: boolean; priority?: number; readerId?: string; at?: number } = {},
) => ({
  id,
  priority: change.priority ?? 0,
  createdAt: change.at ?? 1,
  lane: { bulk: change.bulk ?? true, way: change.readerId ?? null, first: false },
});

describe('jobs on one way', () => {
  it('go one after the other when they read from one reader, the earlier first', () => {
    const [first, second] = [job('a', { readerId: 'r', at: 1 }), job('b', { readerId: 'r', at: 2 })];
    expect(jobAhead(second, [first, second])).toBe(first);
    expect(jobAhead(first, [first, second])).toBeNull();
  });

  it('of one moment go by their ids, so that not both wait', () => {
    const [a, b] = [job('a', { readerId: 'r' }), job('b', { readerId: 'r' })];
    expect([jobAhead(a, [a, b]), jobAhead(b, [a, b])]).toEqual([null, a]);
  });

  it('go side by side from two readers, or without one', () => {
    expect(jobAhead(job('b', { readerId: 'r2', at: 2 }), [job('a', { readerId: 'r1' })])).toBeNull();
    expect(jobAhead(job('b', { at: 2 }), [job('a')])).toBeNull();
  });

  it('make way for one that was put first, whatever it is', () => {
    const urgent = job('b', { priority: 1, at: 9 });
    expect(jobAhead(job('a', { readerId: 'r' }), [urgent])).toBe(urgent);
    expect(jobAhead(urgent, [job('a')])).toBeNull();
  });

  it('that move few bytes neither wait nor are waited for', () => {
    expect(jobAhead(job('a', { bulk: false }), [job('b', { priority: 5 })])).toBeNull();
    expect(jobAhead(job('a'), [job('b', { bulk: false, priority: 5 })])).toBeNull();
  });
});
