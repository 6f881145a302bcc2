import { nextStep } from './nextStep';

const shoot = { frames: 10, keepers: 0, rejects: 0, handoffs: 0, deliveries: 0 };
const step = (change: Partial<typeof shoot>) => nextStep({ ...shoot, ...change }).step;

describe('the next step of a shoot', () => {
  it('is culling while frames are undecided', () => {
    expect(nextStep({ ...shoot, keepers: 3, rejects: 2 })).toEqual({
      step: 'cull',
      words: 'Cull 5 left',
      to: 'cull',
    });
  });
  it('is culling, too, when nothing was kept', () => expect(step({ rejects: 10 })).toBe('cull'));
  it('is the hand-off once all is decided', () => expect(step({ keepers: 4, rejects: 6 })).toBe('handoff'));
  it('is delivering after the hand-off', () =>
    expect(step({ keepers: 4, rejects: 6, handoffs: 1 })).toBe('deliver'));
  it('is none once it was delivered', () =>
    expect(step({ keepers: 4, rejects: 6, handoffs: 1, deliveries: 2 })).toBe('delivered'));
});
