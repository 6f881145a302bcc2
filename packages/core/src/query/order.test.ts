import fc from 'fast-check';
import {
  BY_TIME,
  headingOf,
  HEADINGS,
  orderedPlaces,
  ORDERS,
  type FrameOrdering,
  type OrderedFrame,
} from './order';

const frame = (name: string, change: Partial<OrderedFrame> = {}): OrderedFrame => ({
  ...{ name, stars: 0, label: null, body: 'A', time: '2031-04-18T09:00:00.000', bytes: 10, sharpness: null },
  ...change,
});
const FRAMES = [
  frame('p_9', { sharpness: 120, stars: 1, time: '2031-04-18T09:10:00.000', bytes: 30 }),
  frame('p_10', { stars: 5, time: '2031-04-18T10:00:00.000', body: 'B', bytes: 20 }),
  frame('p_11', { sharpness: 900, stars: 3, time: '2031-04-19T10:00:00.000', label: 'M', bytes: null }),
  frame('p_2', { sharpness: 450, stars: 5, time: null, label: 'A', bytes: 40 }),
];
const order = (change: Partial<FrameOrdering>) =>
  orderedPlaces(FRAMES, { ...BY_TIME, heading: 'none', ...change }).map((place) => FRAMES[place]!.name);

describe('the order of frames', () => {
  it('is by time, and either way; without a time a frame comes last', () => {
    expect(order({})).toEqual(['p_9', 'p_10', 'p_11', 'p_2']);
    expect(order({ reverse: true })).toEqual(['p_11', 'p_10', 'p_9', 'p_2']);
  });

  it('is by name as people count', () =>
    expect(order({ by: 'name' })).toEqual(['p_2', 'p_9', 'p_10', 'p_11']));

  it('has the most stars and the largest first, equals in order of time', () => {
    expect(order({ by: 'stars' })).toEqual(['p_10', 'p_2', 'p_11', 'p_9']);
    expect(order({ by: 'stars', reverse: true })).toEqual(['p_9', 'p_11', 'p_10', 'p_2']);
    expect(order({ by: 'size' })).toEqual(['p_2', 'p_9', 'p_10', 'p_11']);
  });

  it('has the sharpest or the softest first, and what was not measured last either way', () => {
    expect(order({ by: 'sharpness' })).toEqual(['p_11', 'p_2', 'p_9', 'p_10']);
    expect(order({ by: 'sharpness', reverse: true })).toEqual(['p_9', 'p_2', 'p_11', 'p_10']);
  });

  it('stands under headings, each together, what is not known last', () => {
    expect(order({ heading: 'day', reverse: true })).toEqual(['p_11', 'p_10', 'p_9', 'p_2']);
    expect(order({ heading: 'stars', by: 'name' })).toEqual(['p_2', 'p_10', 'p_11', 'p_9']);
    expect(order({ heading: 'label' })).toEqual(['p_2', 'p_11', 'p_9', 'p_10']);
    expect(order({ heading: 'body', by: 'stars' })).toEqual(['p_2', 'p_11', 'p_9', 'p_10']);
  });

  it('loses and doubles no frame, and keeps each heading in one piece, whatever is asked for', () => {
    const any = fc.record<OrderedFrame>({
      name: fc.string({ maxLength: 6 }),
      stars: fc.integer({ min: 0, max: 5 }),
      label: fc.constantFrom('A', 'B', null),
      body: fc.constantFrom('A', 'B', null),
      time: fc.constantFrom(
        '2031-04-18T09:10:00.000',
        '2031-04-18T10:00:00.000',
        '2031-04-19T10:00:00.000',
        null,
      ),
      bytes: fc.constantFrom(1, 2, null),
      sharpness: fc.constantFrom(1, 2, null),
    });
    fc.assert(
      fc.property(
        fc.array(any, { maxLength: 30 }),
        fc.constantFrom(...ORDERS),
        fc.constantFrom(...HEADINGS),
        fc.boolean(),
        (frames, by, heading, reverse) => {
          const places = orderedPlaces(frames, { by, heading, reverse });
          expect([...places].sort((a, b) => a - b)).toEqual(frames.map((_, place) => place));
          const heads = places.map((place) => headingOf(heading, frames[place]!));
          const runs = heads.filter((head, i) => head !== heads[i - 1]);
          expect(new Set(runs).size).toBe(runs.length);
        },
      ),
    );
  });
});
