import { DEFAULT_RULES } from '@arkiv/core';
import { NO_FRAME, type LoadedFrame } from '../../data/frames';
import { SHOWN_IN_FIND, sourceOf } from '../../data/frameSource';
import { get } from '../../data/http';
import { ShootStore } from '../../data/shootStore';
import { runFind } from './findCommands';
import { targetsOf, type FindSeen } from './findSeen';
import { FoundList } from './foundList';

jest.mock('../../data/stream', () => ({ listen: () => () => undefined }));
jest.mock('../../data/http', () => ({
  get: jest.fn(() => Promise.resolve({ operations: [], before: null })),
  post: jest.fn(() => new Promise(() => undefined)),
}));

const frame = (id: string, change: Partial<LoadedFrame> = {}): LoadedFrame => ({
  ...NO_FRAME,
  ...{ id, name: id, instant: 1, shootId: 's' },
  ...change,
});

const PILE = '01PILE00000000000000000000';

describe('keys of Find', () => {
  /** Each check has frames of its own: what waits in the queue of one is nothing to the next. */
  let check = 0;
  let store: ShootStore;
  let seen: FindSeen;
  let said: string[];
  let at: number;
  const f = (name: string) => `${check}-${name}`;

  beforeEach(() => {
    check += 1;
    const ids = new Map(['a', 'b', 'c'].map((name, i) => [i, f(name)]));
    const places = new Map([...ids].map(([i, id]) => [id, i]));
    store = new ShootStore(sourceOf(SHOWN_IN_FIND));
    store.add([frame(f('a')), frame(f('b'), { stars: 2 }), frame(f('c'), { binned: 1 })]);
    [said, at] = [[], 0];
    const never = () => undefined;
    seen = {
      store,
      rules: DEFAULT_RULES,
      list: new FoundList(3, [{ key: null, from: 0, count: 3, title: null, date: null }], 'none', new Set(), {
        ids,
        places,
      }),
      at: 0,
      current: store.snapshot().byId.get(f('a')),
      selection: new Set(),
      layout: { current: { across: 2, rows: 1 } },
      cell: 170,
      pile: { id: PILE, name: 'Best' },
      album: null,
      within: null,
      go: (to) => (at = to),
      select: (chosen) => (seen.selection = chosen),
      setCell: (cell) => (seen.cell = cell),
      say: (words) => said.push(words),
      loaded: (wanted) => Promise.resolve(wanted.flatMap((id) => store.snapshot().byId.get(id) ?? [])),
      allIds: () => Promise.resolve(['a', 'b', 'c'].map(f)),
      ...{
        open: never,
        toLine: never,
        inShoot: never,
        similar: never,
        nearTime: never,
        toggle: never,
        foldAt: never,
        clear: never,
      },
    };
  });
  afterEach(() => {
    store.end();
  });
  const settled = () => new Promise((resolve) => setTimeout(resolve, 0));
  const now = (name: string) => store.snapshot().byId.get(f(name))!;

  it('mark what one stands at, or all that is selected, whatever shoot it is in', async () => {
    runFind({ do: 'stars', to: 4 }, seen);
    await settled();
    expect([now('a').stars, now('b').stars]).toEqual([4, 2]);
    seen.selection = new Set(['a', 'b'].map(f));
    expect(targetsOf(seen)).toEqual(['a', 'b'].map(f));
    runFind({ do: 'verdict', to: 'keep' }, seen);
    await settled();
    expect([now('a').verdict, now('b').verdict]).toEqual(['keep', 'keep']);
    expect(said.at(-1)).toBe('2 frames changed: keep');
    runFind({ do: 'label', to: 'M' }, seen);
    runFind({ do: 'pile' }, seen);
    await settled();
    expect([now('b').label, now('b').piles, now('a').piles]).toEqual(['M', PILE, PILE]);
  });

  it('mark nothing that lies in the bin, and say so', async () => {
    seen.current = now('c');
    runFind({ do: 'stars', to: 4 }, seen);
    await settled();
    expect(now('c').stars).toBe(0);
    expect(said.at(-1)).toBe('It lies in the bin: bring it back first');
  });

  it('move over rows and ends, and select on the way', async () => {
    runFind({ do: 'row', by: 1 }, seen);
    expect(at).toBe(2);
    runFind({ do: 'end', to: 'last' }, seen);
    expect(at).toBe(2);
    runFind({ do: 'extend', by: 1 }, seen);
    expect([...seen.selection]).toEqual(['a', 'b'].map(f));
    runFind({ do: 'selectToggle' }, seen);
    expect([...seen.selection]).toEqual([f('b')]);
    runFind({ do: 'selectAll' }, seen);
    await settled();
    expect([...seen.selection]).toEqual(['a', 'b', 'c'].map(f));
    runFind({ do: 'selectNone' }, seen);
    expect(seen.selection.size).toBe(0);
    runFind({ do: 'size', by: 1 }, seen);
    expect(seen.cell).toBe(220);
  });

  it('take back what was decided here, and nothing of frames that nobody sees here', async () => {
    runFind({ do: 'stars', to: 5 }, seen);
    await settled();
    runFind({ do: 'undo' }, seen);
    await settled();
    await settled();
    expect(now('a').stars).toBe(0);
    // What somebody has done elsewhere meanwhile stays.
    const elsewhere = { id: 'x', kind: 'stars', subject: 'elsewhere', from: 0, to: 1, at: 1, by: '' };
    jest.mocked(get).mockImplementation((() =>
      Promise.resolve({
        operations: [{ ...elsewhere, group: 'g', pass: null, window: 'w', undoes: null }],
        before: null,
      })) as never);
    const other = new ShootStore(sourceOf(SHOWN_IN_FIND));
    other.add([frame(f('a'))]);
    expect(await other.undo()).toBeNull();
    other.end();
  });

  it('that mean something in Cull alone say where', () => {
    expect(runFind({ do: 'histogram' }, seen)).toBe(false);
    expect(said.at(-1)).toMatch(/Enter opens what was found/);
  });
});
