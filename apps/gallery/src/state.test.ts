import { chosenWords, foreseen, leftOf, type Now } from './state';

const NOW: Now = {
  ...{ me: 'Ana', rights: { choose: true, remark: true, download: false }, most: 3, chosen: { a: 'Ben' } },
  ...{ favourites: ['b'], remarks: {}, sent: { by: 'Ben', at: 1 }, pictures: { count: 3, stamp: 'a' } },
};

it('foresees what will be when something was said, and changes nothing of what was', () => {
  expect(foreseen(NOW, { kind: 'choice', key: 'c', on: true })).toMatchObject({
    ...{ chosen: { a: 'Ben', c: 'Ana' }, sent: null },
  });
  expect(foreseen(NOW, { kind: 'choice', key: 'a', on: false }).chosen).toEqual({});
  expect(foreseen(NOW, { kind: 'favourite', key: 'b', on: true }).favourites).toEqual(['b']);
  expect(foreseen(NOW, { kind: 'favourite', key: 'b', on: false }).favourites).toEqual([]);
  expect(foreseen(NOW, { kind: 'remark', key: 'a', text: 'x', x: null, y: null })).toBe(NOW);
  expect(NOW).toMatchObject({ chosen: { a: 'Ben' }, favourites: ['b'] });
});

it('counts what is left to be chosen, where a number was agreed', () => {
  expect(leftOf(NOW)).toBe(2);
  expect(leftOf({ ...NOW, most: 1, chosen: { a: 'x', b: 'y' } })).toBe(0);
  expect([leftOf({ ...NOW, most: 0 }), leftOf({ ...NOW, most: null })]).toEqual([null, null]);
});

it('says where the choice stands', () => {
  expect(chosenWords(NOW)).toBe('1 of 3 chosen · sent by Ben');
  expect(chosenWords({ ...NOW, most: 0, sent: null })).toBe('1 chosen');
});
