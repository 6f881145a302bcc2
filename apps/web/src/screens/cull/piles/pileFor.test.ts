import { pileFor } from './pileFor';

const PILES = ['Album', 'Album, second choice', 'Press', 'Print'].map((name) => ({ name }));

describe('what is typed to choose a pile', () => {
  it.each([
    ['Press', 'Press'],
    [' pri ', 'Print'],
    ['ALBUM', 'Album'],
    ['album,', 'Album, second choice'],
    // Two begin so: neither is meant yet.
    ['pr', null],
    ['Wall', null],
    ['', null],
  ])('“%s” means %s', (text, name) => expect(pileFor(text, PILES)?.name ?? null).toBe(name));
});
