import * as fc from 'fast-check';
import { choiceOf, guestName, isGalleryOpen, mayChoose, saidBy, type SaidInGallery } from './said';

const NOTHING = { frameId: null, on: true, text: null, x: null, y: null, of: null };
/** Says one thing after another. */
const saying = (...said: (Partial<SaidInGallery> & Pick<SaidInGallery, 'kind'>)[]): SaidInGallery[] =>
  said.map((one, i) => ({ ...NOTHING, id: i + 1, guestId: 'ana', at: 1000 + i, ...one }));
const chosenOf = (said: SaidInGallery[]) => [...choiceOf(said).chosen.keys()];

it('somebody outside is called as their address says, else as they typed, made even', () => {
  expect(guestName('Ana', 'Ben')).toBe('Ana');
  expect(guestName('', '  Ana \n Pinto ')).toBe('Ana Pinto');
  expect(guestName('', 'x'.repeat(100))).toHaveLength(60);
  expect(guestName('', ' \t ')).toBe('Guest');
});

describe('What was said in a gallery', () => {
  it('comes to nothing where nobody said anything', () => {
    const { chosen, favourites, remarks, sent } = choiceOf(saying({ kind: 'opened' }));
    expect([chosen.size, favourites.size, remarks.size, sent]).toEqual([0, 0, 0, null]);
  });

  it('keeps what is chosen in the order in which it was, with who chose it', () => {
    const said = saying(
      { kind: 'choice', frameId: 'c' },
      { kind: 'choice', frameId: 'a', guestId: 'ben' },
      { kind: 'choice', frameId: 'b' },
      { kind: 'choice', frameId: 'c', on: false, guestId: 'ben' },
      { kind: 'choice', frameId: 'c', guestId: 'ben' },
    );
    expect(chosenOf(said)).toEqual(['a', 'b', 'c']);
    expect(choiceOf(said).chosen.get('c')).toEqual({ guestId: 'ben', at: 1004 });
  });

  it('leaves a picture to whom chose it first', () => {
    const said = saying({ kind: 'choice', frameId: 'a' }, { kind: 'choice', frameId: 'a', guestId: 'ben' });
    expect(choiceOf(said).chosen.get('a')?.guestId).toBe('ana');
  });

  it('keeps favourites apart: they are each one’s own', () => {
    const { favourites } = choiceOf(
      saying(
        { kind: 'favourite', frameId: 'a' },
        { kind: 'favourite', frameId: 'b', guestId: 'ben' },
        { kind: 'favourite', frameId: 'a', on: false, guestId: 'ben' },
      ),
    );
    expect([...favourites.get('ana')!]).toEqual(['a']);
    expect([...favourites.get('ben')!]).toEqual(['b']);
  });

  it('takes back the one remark that is meant', () => {
    const { remarks } = choiceOf(
      saying(
        { kind: 'remark', frameId: 'a', text: 'brighter', x: 0.25, y: 0.5 },
        { kind: 'remark', frameId: 'a', text: 'crop', guestId: 'ben' },
        { kind: 'remark', frameId: 'a', on: false, of: 1 },
        { kind: 'remark', frameId: 'b', on: false, of: 2 },
      ),
    );
    expect(remarks.get('a')).toEqual([{ id: 2, guestId: 'ben', text: 'crop', x: null, y: null, at: 1001 }]);
  });

  it('is a made choice only until it changes', () => {
    const said = saying(
      { kind: 'choice', frameId: 'a' },
      { kind: 'sent' },
      { kind: 'favourite', frameId: 'b' },
    );
    expect(choiceOf(said).sent).toEqual({ guestId: 'ana', at: 1001 });
    expect(choiceOf([...said, ...saying({ kind: 'choice', frameId: 'a' })]).sent).not.toBeNull();
    expect(choiceOf([...said, ...saying({ kind: 'choice', frameId: 'b' })]).sent).toBeNull();
  });

  it('allows as many as were agreed, and any number where none was', () => {
    const { chosen } = choiceOf(saying({ kind: 'choice', frameId: 'a' }, { kind: 'choice', frameId: 'b' }));
    expect([3, 2, 1, 0].map((most) => mayChoose(chosen.size, most))).toEqual([true, false, false, true]);
  });

  it('stands by the last word on each picture, whoever says it and however often', () => {
    const word = fc.record({
      frameId: fc.constantFrom('a', 'b', 'c'),
      guestId: fc.constantFrom('ana', 'ben'),
      on: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(word, { maxLength: 40 }), (words) => {
        const last = new Map(words.map(({ frameId, on }) => [frameId, on]));
        const chosen = chosenOf(saying(...words.map((one) => ({ kind: 'choice' as const, ...one }))));
        expect(chosen.sort()).toEqual([...last].flatMap(([id, on]) => (on ? [id] : [])).sort());
      }),
    );
  });

  it('is counted for each person, of all frames or of one', () => {
    const said = saying(
      { kind: 'opened' },
      { kind: 'favourite', frameId: 'a' },
      { kind: 'favourite', frameId: 'b' },
      { kind: 'favourite', frameId: 'b', on: false },
      { kind: 'choice', frameId: 'a' },
      { kind: 'remark', frameId: 'b', text: 'crop', guestId: 'ben' },
      { kind: 'downloaded', frameId: 'a', text: '01.jpg', guestId: 'ben' },
      { kind: 'downloaded', frameId: 'a', text: '01.jpg', guestId: 'ben' },
      { kind: 'opened' },
    );
    const ana = { openedAt: 1008, favourites: 1, chosen: 1, remarks: 0, taken: 0 };
    const ben = { openedAt: null, favourites: 0, chosen: 0, remarks: 1, taken: 2 };
    expect(Object.fromEntries(saidBy(said))).toEqual({ ana, ben });
    expect(Object.fromEntries(saidBy(said, 'b'))).toEqual({
      ana: { ...ana, favourites: 0, chosen: 0 },
      ben: { ...ben, taken: 0 },
    });
  });
});

it('is seen until its time is over, to the millisecond, or somebody closes it', () => {
  expect([999, 1000, 1001].map((now) => isGalleryOpen({ closedAt: null, until: 1000 }, now))).toEqual([
    ...[true, false, false],
  ]);
  expect(isGalleryOpen({ closedAt: null, until: null }, 1e15)).toBe(true);
  expect(isGalleryOpen({ closedAt: 1, until: null }, 2)).toBe(false);
});
