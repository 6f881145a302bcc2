import { standingOf, type FrameChange, type KeeperRules } from '@arkiv/core';
import { useCallback, useMemo, useState, useSyncExternalStore } from 'react';
import { useSearchParams } from 'react-router';
import type { LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import { useSettings } from '../../data/live';
import { shootStore } from '../../data/shootStore';
import { Takes } from '../cull/takes/takes';
import { all, FIRST, meant, pick, placeOf, step, type Chosen, type Order } from '../../parts/chosen';

/** Which frames of the shoot are shown, and of these all, or those that lack something. */
export const PARTS = { keepers: 'Keepers', all: 'All' } as const;
export type Part = keyof typeof PARTS;
export const LACKS = { nothing: 'Any', caption: 'No caption', keywords: 'No keywords' } as const;
export type Lack = keyof typeof LACKS;
export const VIEWS = { sheet: 'Contact sheet', single: 'Single', table: 'Table' } as const;
export type View = keyof typeof VIEWS;

const inPart = (part: Part, rules: KeeperRules | undefined, frame: LoadedFrame): boolean =>
  part === 'all' || (rules !== undefined && standingOf(rules, frame) === 'keeper');
const lacks = (lack: Lack, frame: LoadedFrame): boolean =>
  lack === 'nothing' || (lack === 'caption' ? frame.caption === null : frame.keywords === '');

/** One of some names in the address; the first where none is. */
function useNamed<K extends string>(key: string, names: Readonly<Record<K, string>>, none: NoInfer<K>) {
  const [params, setParams] = useSearchParams();
  const value = params.get(key);
  const set = useCallback(
    (next: K) =>
      setParams(
        (before) => {
          before.set(key, next);
          return before;
        },
        { replace: true },
      ),
    [key, setParams],
  );
  return [value !== null && Object.hasOwn(names, value) ? (value as K) : none, set] as const;
}

/** The frames of a shoot that are described, which of them are meant, and what is done to them. */
export function useDescribe(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  const rules = settings?.rules as unknown as KeeperRules | undefined;
  const [view, setView] = useNamed('view', VIEWS, 'sheet');
  const whole = shoot.frames;
  const keepers = useMemo(() => whole.filter((frame) => inPart('keepers', rules, frame)), [whole, rules]);
  // Before anything is decided there is all to describe.
  const hasKeepers = useFirst(shoot.loaded && rules !== undefined, keepers.length > 0);
  const [part, setPart] = useNamed('show', PARTS, hasKeepers ? 'keepers' : 'all');
  const [lack, setLack] = useNamed('without', LACKS, 'nothing');
  const counts = useMemo(() => {
    const of = part === 'keepers' ? keepers : whole;
    const lacking = (what: Lack) => of.filter((frame) => lacks(what, frame)).length;
    return {
      ...{ keepers: keepers.length, all: whole.length },
      ...{ nothing: of.length, caption: lacking('caption'), keywords: lacking('keywords') },
    };
  }, [whole, keepers, part]);
  const [asked, setAsked] = useState(0);
  // Words that are written take no frame away from under the hand: what is shown stands until it is asked for again.
  const { order } = shoot;
  const shown = useMemo(() => {
    void asked;
    const ids = shoot.frames
      .filter((frame) => inPart(part, rules, frame) && lacks(lack, frame))
      .map(({ id }) => id);
    const places = new Map(ids.map((id, place) => [id, place]));
    return {
      ids,
      length: ids.length,
      id: (place: number) => ids[place],
      placeOf: (id: string) => places.get(id) ?? -1,
    } satisfies Order & { ids: readonly string[] };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [order, part, lack, rules, asked]);
  const [chosen, setChosen] = useState<Chosen>(FIRST);
  /** what was done last */
  const [notice, setNotice] = useState('');
  const targets = useMemo(
    () => meant(chosen, shown).flatMap((id) => shoot.byId.get(id) ?? []),
    [chosen, shown, shoot],
  );
  const at = placeOf(chosen, shown);
  const write = useCallback(
    (changes: readonly FrameChange[], words: string) => {
      if (changes.length === 0) return;
      const operations = store.markEach(changes);
      const frames = new Set(operations.map(({ subject }) => subject)).size;
      if (frames > 0) setNotice(`${words}: ${many(frames, 'frame')} · Ctrl Z undoes`);
    },
    [store],
  );
  const turn = useCallback(
    (which: 'undo' | 'redo') =>
      store[which]().then(
        (done) => {
          if (!done) return setNotice(which === 'undo' ? 'Nothing to undo' : 'Nothing to redo');
          setNotice(
            `${which === 'undo' ? 'Undone' : 'Done again'}: ${many(new Set(done.ids).size, 'frame')}`,
          );
        },
        (error: unknown) => setNotice((error as Error).message),
      ),
    [store],
  );
  return {
    ...{
      shootId,
      shoot,
      settings,
      view,
      setView,
      part,
      lack,
      counts,
      shown,
      at,
      chosen,
      targets,
      notice,
      write,
    },
    current: shoot.byId.get(shown.id(at) ?? '') ?? null,
    setPart: (next: Part) => {
      setPart(next);
      setAsked((n) => n + 1);
    },
    setLack: (next: Lack) => {
      setLack(next);
      setAsked((n) => n + 1);
    },
    undo: () => void turn('undo'),
    redo: () => void turn('redo'),
    pick: (place: number, how: 'only' | 'range' | 'toggle') => {
      const id = shown.id(place);
      if (id !== undefined) setChosen((now) => pick(now, shown, id, how));
    },
    step: (by: number, extend = false) => setChosen((now) => step(now, shown, by, extend)),
    chooseAll: () => setChosen((now) => all(now, shown)),
    chooseOne: () => setChosen((now) => ({ ...now, ids: new Set<string>() })),
    /** All of the take of the frame that is stood at, as it is grouped by itself. */
    chooseTake: () => {
      const id = shown.id(at);
      if (id === undefined) return;
      const takes = Takes.of(shoot.frames, { strictness: 0, bodiesTogether: false });
      const ids = takes.idsWith(id).filter((its) => shown.placeOf(its) >= 0);
      setChosen({ at: id, anchor: ids[0]!, ids: new Set(ids) });
      setNotice(
        ids.length === 1 ? 'It is a take of its own' : `Chosen: ${many(ids.length, 'frame')} of its take`,
      );
    },
    chooseThese: (ids: readonly string[]) =>
      setChosen({ at: ids[0] ?? null, anchor: ids[0] ?? null, ids: new Set(ids) }),
  };
}

export type Describe = ReturnType<typeof useDescribe>;

/** A value as it was when it was known first. */
function useFirst<T>(known: boolean, value: T): T {
  const [first, setFirst] = useState<{ value: T } | null>(null);
  if (known && first === null) setFirst({ value });
  return first ? first.value : value;
}
