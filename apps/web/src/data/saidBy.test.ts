import { saidByWords } from './saidBy';

it('says what somebody did in a gallery, and nothing of what they did not', () => {
  const nothing = { favourites: 0, chosen: 0, remarks: 0, taken: 0 };
  expect(saidByWords(nothing)).toBe('');
  expect(saidByWords({ ...nothing, remarks: 1, taken: 1 })).toBe('1 remark · 1 file taken along');
  expect(saidByWords({ favourites: 2, chosen: 3, remarks: 4, taken: 1200 })).toBe(
    '2 favourites · 3 chosen · 4 remarks · 1,200 files taken along',
  );
});
