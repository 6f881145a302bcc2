import { GROUND, INK, LABEL_COLOURS, LABEL_INK, MARKER, NOTE, STRIKE, STRIKE_TEXT } from '../../theme/theme';
import { contrast } from './contrast';

describe('contrast', () => {
  it('has WCAG’s own end points', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 6);
    expect(contrast('#777777', '#777777')).toBe(1);
  });

  // 4.54 : 1 for #767676 on white is the value by which WCAG's guides name the lightest grey that passes.
  it('knows the lightest grey that is text on white', () => {
    expect(contrast('#767676', '#ffffff')).toBeCloseTo(4.54, 2);
  });
});

describe('the theme', () => {
  const grounds = [GROUND.deep, GROUND.base, GROUND.raised];
  const least = (colour: string) => Math.min(...grounds.map((ground) => contrast(colour, ground)));

  it.each(Object.entries({ ...INK, MARKER, STRIKE_TEXT, NOTE }))(
    '%s is text on every ground (AA: 4.5 : 1)',
    (_, colour) => expect(least(colour)).toBeGreaterThanOrEqual(4.5),
  );

  it('draws the strike and the label tabs so that they are seen (AA: 3 : 1 for graphics)', () => {
    expect(least(STRIKE)).toBeGreaterThanOrEqual(3);
    for (const colour of Object.values(LABEL_COLOURS)) expect(least(colour)).toBeGreaterThanOrEqual(3);
  });

  it.each(Object.entries(LABEL_COLOURS))(
    'the letter of label %s is read on its colour (AA: 4.5 : 1)',
    (label, colour) =>
      expect(contrast(LABEL_INK[label as keyof typeof LABEL_INK], colour)).toBeGreaterThanOrEqual(4.5),
  );

  it('has no tint in what lies beside a picture', () => {
    for (const grey of Object.values(GROUND)) {
      const [r, g, b] = [1, 3, 5].map((at) => grey.slice(at, at + 2));
      expect([g, b]).toEqual([r, r]);
    }
  });
});
