import { albumPlace, DEFAULT_RULES } from '@arkiv/core';
import { NO_FRAME, type LoadedFrame } from '../../data/frames';
import { SHOWN_IN_FIND, sourceOf } from '../../data/frameSource';
import { ShootStore } from '../../data/shootStore';
import { arrangeBefore, outOfAlbum } from './arranging';
import { runFind } from './findCommands';
import type { FindSeen } from './findSeen';
import { FoundList } from './foundList';

jest.mock('../../data/stream', () => ({ listen: () => () => undefined }));
jest.mock('../../data/http', () => ({
  get: jest.fn(() => Promise.resolve({ operations: [], before: null })),
  post: jest.fn(() => new Promise(() => undefined)),
}));

const ALBUM = '01ALBUM0000000000000000000';
const BELOW = '01BELOW0000000000000000000';
let check = 0;

/** An album with five frames, and one below it with two, as they stand on the sheet. */
function opened(change: Partial<NonNullable<FindSeen['within']>> = {}) {
  check += 1;
  const f = (name: string) => `${check}-${name}`;
  const frame = (name: string, albums: string): LoadedFrame => ({
    ...{ ...NO_FRAME, id: f(name), name, shootId: 's', albums },
  });
  const store = new ShootStore(sourceOf(SHOWN_IN_FIND));
  const frames = [
    ...['a', 'b', 'c', 'd', 'e'].map((name, i) => frame(name, `${ALBUM}:a${i}`)),
    ...['x', 'y'].map((name, i) => frame(name, `${BELOW}:a${i}`)),
  ];
  store.add(frames);
  const said: string[] = [];
  const never = () => undefined;
  const byId = (id: string) => store.snapshot().byId.get(id)!;
  const seen: FindSeen = {
    ...{ store, rules: DEFAULT_RULES, at: 0, cell: 170, pile: null, selection: new Set<string>() },
    ...{ album: { id: ALBUM, name: 'Herons' }, current: byId(f('a')) },
    list: new FoundList(7, [], 'album', new Set(), { ids: new Map(), places: new Map() }),
    layout: { current: { across: 3, rows: 2 } },
    go: never,
    select: (ids) => (seen.selection = ids),
    setCell: never,
    say: (words) => said.push(words),
    loaded: (ids) => Promise.resolve(ids.map(byId)),
    allIds: () => Promise.resolve([]),
    ...{ open: never, toLine: never, inShoot: never, similar: never, nearTime: never },
    ...{ toggle: never, foldAt: never, clear: never },
    within: {
      ...{ id: ALBUM, name: 'Herons', byRule: false, arranged: true },
      albumAt: (i) => (i < 0 || i > 6 ? null : i < 5 ? ALBUM : BELOW),
      frameAt: (i) => Promise.resolve(frames[i] && byId(frames[i].id)),
      lead: (its) => said.push(`lead ${its.name}`),
      ...change,
    },
  };
  const stand = (i: number, ...selected: string[]) => {
    seen.at = i;
    seen.current = byId(frames[i]!.id);
    seen.selection = new Set(selected.map(f));
  };
  const order = (album = ALBUM) =>
    frames
      .map(({ id }) => byId(id))
      .flatMap((its) => {
        const place = albumPlace(its.albums, album);
        return place === null ? [] : [{ name: its.name, place }];
      })
      .sort((a, b) => (a.place < b.place ? -1 : 1))
      .map(({ name }) => name)
      .join('');
  return { seen, stand, order, said, store };
}

/** What a key began is done. */
const done = () => new Promise((resolve) => setTimeout(resolve));

describe('frames in their album', () => {
  it('move one place on and back at a key, and stay at the ends', async () => {
    const { seen, stand, order, said } = opened();
    stand(1);
    runFind({ do: 'arrange', by: 1 }, seen);
    await done();
    expect(order()).toBe('acbde');
    stand(0);
    runFind({ do: 'arrange', by: -1 }, seen);
    await done();
    expect([order(), said.at(-1)]).toEqual(['acbde', 'It is the first already']);
    stand(4);
    runFind({ do: 'arrange', by: 1 }, seen);
    await done();
    expect(said.at(-1)).toBe('It is the last already');
  });

  it('move together in the order they have, before where a hand lets them go', async () => {
    const { seen, stand, order } = opened();
    stand(4, 'e', 'b');
    await arrangeBefore(0, false, seen);
    expect(order()).toBe('beacd');
  });

  it('are not torn where they are let go upon themselves', async () => {
    const { seen, stand, order } = opened();
    stand(1, 'b', 'c');
    await arrangeBefore(2, false, seen);
    expect(order()).toBe('abcde');
  });

  it('move before the first of those below only within their own album', async () => {
    const { seen, stand, order, said } = opened();
    stand(1);
    await arrangeBefore(5, false, seen);
    expect([order(), order(BELOW), said.at(-1)]).toEqual([
      ...['abcde', 'xy', 'It stands in another album: open that to arrange it'],
    ]);
    stand(6);
    await arrangeBefore(5, false, seen);
    expect(order(BELOW)).toBe('yx');
  });

  it('are taken out with the frame staying in its shoot, and put back where they stood', async () => {
    const { seen, stand, order, said, store } = opened();
    stand(1, 'b', 'd');
    runFind({ do: 'drop' }, seen);
    await done();
    expect([order(), said.at(-1)]).toEqual([
      'ace',
      '2 frames out of “Herons”. The frames stay in their shoots',
    ]);
    await store.undo();
    expect(order()).toBe('abcde');
    stand(2);
    await outOfAlbum(seen);
    expect(said.at(-1)).toBe('Out of “Herons”. The frame stays in its shoot');
  });

  it('stay as they are where a rule fills it, or another order is shown', async () => {
    const rule = opened({ byRule: true });
    await outOfAlbum(rule.seen);
    expect([rule.order(), rule.said]).toEqual([
      'abcde',
      ['“Herons” is filled by its rule: change that instead'],
    ]);
    const other = opened({ arranged: false });
    other.stand(1);
    await arrangeBefore(0, false, other.seen);
    expect([other.order(), other.said.at(-1)]).toEqual([
      ...['abcde', 'Choose “as arranged” above: in another order nothing is arranged'],
    ]);
  });

  it('stand for it at a key, and are put in and out at another', async () => {
    const { seen, stand, order, said } = opened();
    stand(2);
    runFind({ do: 'take', deed: 'lead' }, seen);
    expect(said).toEqual(['lead c']);
    stand(5);
    runFind({ do: 'album' }, seen);
    await done();
    expect([order(), said.at(-1)]).toEqual(['abcdex', '1 frame into the album “Herons”']);
    runFind({ do: 'album' }, seen);
    await done();
    expect(order()).toBe('abcde');
    expect(runFind({ do: 'take', deed: 'split' }, seen)).toBe(false);
  });
});
