import { lowestNumber } from './lowestNumber';

it('numbers of names begin at the lowest that one ends with, and at 1 where a pattern has none there', () => {
  const named = (pattern: string, ...names: string[]) =>
    lowestNumber(
      pattern,
      names.map((name) => ({ name })),
    );
  const names = ['press-night_0120', 'press-night_0042', 'portrait'];
  expect(named('{shoot}_{number:4}', ...names)).toBe(42);
  expect(named('{shoot}_{seq}', ...names)).toBe(42);
  expect(named('{number:4}_{capture:yyyyMMdd}', '0003_20290501')).toBe(1);
  expect(named('{shoot}_{number:4}', 'portrait', '2029 ball')).toBe(1);
  expect(named('{shoot}_{number:4}')).toBe(1);
});
