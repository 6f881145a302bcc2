import { exposureValue, takeKindOf, type TakeFacts } from './kinds';

const frame = (seconds: number, more: Partial<TakeFacts> = {}): TakeFacts => ({
  instant: seconds * 1000,
  ...{ aperture: 8, exposure: 1 / 125, iso: 100, dx: 0, dy: 0 },
  ...more,
});

describe('the exposure value', () => {
  // Exif 2.32, annex C: Av 5 (f/5.6) and Tv 7 (1/125 s) are EV 12; the numbers on rings and dials are rounded.
  it.each([
    [5.6, 1 / 125, 100, 12],
    [1, 1, 100, 0],
    [1.4, 1 / 30, 100, 6],
    [16, 1 / 125, 100, 15],
    [5.6, 1 / 125, 400, 10],
  ])('of f/%d, %d s and ISO %d is that of the APEX tables, to a seventh', (aperture, exposure, iso, ev) => {
    expect(Math.abs(exposureValue({ aperture, exposure, iso })! - ev)).toBeLessThan(0.15);
  });

  it('is not known where a part of it is not', () => {
    expect(exposureValue({ aperture: null, exposure: 1, iso: 100 })).toBeNull();
  });
});

describe('a take', () => {
  it('of one frame has no kind', () => {
    expect(takeKindOf([frame(0)])).toBeNull();
  });

  it('of frames in quick succession is a burst', () => {
    expect(takeKindOf([0, 0.2, 0.4, 0.6].map((at) => frame(at)))).toBe('burst');
  });

  it('of a burst and one more frame long after it are near-duplicates', () => {
    expect(takeKindOf([0, 0.2, 0.4, 0.6, 40].map((at) => frame(at)))).toBe('near');
    expect(takeKindOf([0, 0.2, 0.4, 2.1, 2.3].map((at) => frame(at)))).toBe('burst');
  });

  it('of frames seconds apart are near-duplicates', () => {
    expect(takeKindOf([0, 4, 9].map((at) => frame(at)))).toBe('near');
  });

  it('exposed in steps is a bracket, by time, by aperture or by ISO, hand-held or not', () => {
    const steps = [1 / 125, 1 / 500, 1 / 30];
    expect(takeKindOf(steps.map((exposure, i) => frame(i * 0.4, { exposure, dx: 0.02 * i })))).toBe(
      'bracket',
    );
    expect(takeKindOf([8, 5.6, 11].map((aperture, i) => frame(i * 0.4, { aperture })))).toBe('bracket');
    expect(takeKindOf([100, 400, 50].map((iso, i) => frame(i * 0.4, { iso })))).toBe('bracket');
  });

  it('whose exposure is set in steps beside the meter is a bracket, with a flash or a lens that tells no aperture', () => {
    const biased = [0, -1, 1].map((exposureBias, i) => frame(i * 0.5, { exposureBias }));
    expect(takeKindOf(biased)).toBe('bracket');
    expect(takeKindOf(biased.map((one) => ({ ...one, aperture: null })))).toBe('bracket');
    expect(takeKindOf([0, 0.33, 0.33].map((exposureBias, i) => frame(i * 0.5, { exposureBias })))).toBe(
      'burst',
    );
    const unread = [1 / 125, 1 / 500, 1 / 30].map((exposure, i) =>
      frame(i * 0.5, { exposure, aperture: null }),
    );
    expect(takeKindOf(unread)).toBe('bracket');
  });

  it('focused further on from frame to frame, in even steps, is a bracket; one that follows a subject is none', () => {
    const focused = (values: readonly (number | null)[], more: Partial<TakeFacts> = {}) =>
      takeKindOf(values.map((focus, i) => frame(i * 0.5, { focus, ...more })));
    expect(focused([4, 3.5, 3.02, 2.5, 2])).toBe('bracket');
    expect(focused([0, 0.02, 0.04])).toBe('bracket');
    expect(focused([4, 3.5, 3.02], { dx: 0.02 })).toBe('bracket');
    expect(focused([4, 3.5, 3.02], { dx: 0.1 })).toBe('burst');
    expect(focused([0.2, 0.25, 0.4])).toBe('burst');
    expect(focused([4, 3.5, 4])).toBe('burst');
    expect(focused([4, 4, 4])).toBe('burst');
    expect(focused([4, null, 3])).toBe('burst');
    expect(takeKindOf([4, 3.5, 3].map((focus, i) => frame(i * 9, { focus })))).toBe('near');
  });

  it('of two exposures, or of one that changed by itself once, is none', () => {
    expect(takeKindOf([frame(0), frame(0.3, { exposure: 1 / 500 })])).toBe('burst');
    expect(takeKindOf([frame(0), frame(0.3), frame(0.6, { exposure: 1 / 500 })])).toBe('burst');
  });

  it('whose frames are shifted one way is a panorama, across or upright, and no other', () => {
    expect(takeKindOf([0, 2, 4].map((at) => frame(at, { dx: 0.4, dy: 0.03 })))).toBe('panorama');
    expect(takeKindOf([0, 2, 4].map((at) => frame(at, { dy: -0.5 })))).toBe('panorama');
    expect(takeKindOf([0.4, -0.4, 0.4].map((dx, i) => frame(i * 2, { dx })))).toBe('near');
    expect(takeKindOf([0.4, 0.4, 0.02].map((dx, i) => frame(i * 2, { dx })))).toBe('near');
  });

  it('of one picture that was processed in several ways is of variants, and a burst of whole seconds is not', () => {
    const named = (...names: string[]) => takeKindOf(names.map((original) => frame(7, { original })));
    expect(named('OCK_0012', 'OCK_0012-bw', 'OCK_0012 (2)')).toBe('variant');
    expect(named('OCK_0012', 'OCK_0013', 'OCK_0014')).toBe('burst');
    expect(named('OCK_0012', 'OCK_00125')).toBe('burst');
    expect(named('cover', 'cover-2')).toBe('burst');
    expect(takeKindOf([frame(7, { original: 'OCK_0012' }), frame(9, { original: 'OCK_0012-bw' })])).toBe(
      'near',
    );
  });
});
