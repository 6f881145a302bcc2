import { albumFor } from './albumFor';

const albums = ['Birds', 'Birds › Herons', 'Birds › Best', 'Work › Best', 'Storks'].map((name, i) => ({
  id: String(i),
  name,
}));
const found = (text: string) => albumFor(text, albums)?.name ?? null;

describe('the album that words mean', () => {
  it('is the one of that name, be it in another one', () => {
    expect([found('birds'), found('Herons'), found('work › best')]).toEqual([
      'Birds',
      'Birds › Herons',
      'Work › Best',
    ]);
  });
  it('is the only one that begins so, and none where two could be meant', () => {
    expect([found('her'), found('sto'), found('best'), found('b'), found(''), found('gulls')]).toEqual([
      ...['Birds › Herons', 'Storks', null, null, null, null],
    ]);
  });
});
