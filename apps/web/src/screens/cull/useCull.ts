import { DEFAULT_RULES, type KeeperRules, type LineContext } from '@arkiv/core';
import { useCallback, useEffect, useMemo, useReducer, useRef, useState, useSyncExternalStore } from 'react';
import type { AlbumChoice } from '../../data/albums';
import { useBindings } from '../../data/bindings';
import { get, type Api } from '../../data/http';
import { labelNames } from '../../data/labels';
import { usePiles, useSettings, useShoot } from '../../data/live';
import { NO_QUESTION, questionText } from '../../data/findQuestion';
import { isFound } from '../../data/frameSource';
import { shootStore, type ShootState, type ShootStore } from '../../data/shootStore';
import { listen } from '../../data/stream';
import type { CullCommand } from '../../keys/actions';
import type { LoadedFrame } from '../../data/frames';
import { intoAlbum, intoPile, runCommand, writeNote, writeWords } from './commands';
import { targetsOf, type Notices, type Seen } from './seen';
import { useIntoAlbums } from './albums/currentAlbum';
import { useCurrentPile } from './piles/currentPile';
import { filterEverywhere, keepEverywhere, keepPlace, keptPlace } from './cullPlace';
import { filterChips, filterWords, toFilter, type CullFilter, type PileChoice } from './cullFilter';
import { keptOf, reduceCull, type CullState } from './cullState';
import { prefixWords } from './cullWords';
import { putWish, type FinishWish } from './finish/finishCommands';
import { useFinishing } from './finish/useFinishing';
import { Looking } from './looking';
import { Showing, type Shown } from './shown';
import { Grouping, type Takes } from './takes/takes';
import { useClocks } from './takes/useClocks';
import { useAddress } from './useAddress';
import { useLineContext } from './useLineContext';
import { useCullKeys } from './useCullKeys';
import { useFollowNewest } from './useFollowNewest';
import { useTogether } from './useTogether';
import type { WordsWish } from '../../data/words';
import { passAddress } from '../../data/passParts';
import { useLooked, usePass, type PassOf } from './passes/usePass';

/** Everything Cull knows and does; the screen only draws it. */
export function useCull(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const [state, dispatch] = useReducer(reduceCull, shootId, keptPlace);
  const { data: settings } = useSettings();
  const rules = (settings?.rules as KeeperRules | undefined) ?? DEFAULT_RULES;
  const pass = usePass(shootId, { store, shoot, rules, state, dispatch });
  const takes = useTakes(shoot, state.strict, state.bodiesTogether);
  const { data: pilesKnown } = usePiles();
  const piles = pilesKnown ?? NO_PILES;
  const names: Record<string, string> = useMemo(() => labelNames(settings), [settings]);
  const found = isFound(shootId);
  const { data: its } = useShoot(found ? undefined : shootId);
  const line = useLineContext(shoot, state.filter.text ?? '', {
    ...{ rules, labels: names, piles },
    of: its ?? null,
  });
  const unfolded = useShown(shoot, state, rules, pass.only, takes, line);
  const folds = state.folded && state.view === 'sheet';
  const shown = useMemo(() => (folds ? unfolded.folded(takes) : unfolded), [folds, unfolded, takes]);
  const current =
    state.current !== null && (shown.has(state.current) || stands(state, shoot))
      ? state.current
      : ((folds && state.current !== null ? takes.standsFor(state.current, shown) : null) ??
        shown.nearest(state.current));
  const at = current === null ? -1 : shown.indexOf(current);
  // Where nothing was gone to yet, one stands at the first frame: and stays there in another order.
  const stood = state.current !== null;
  useEffect(() => {
    if (!stood && current !== null) dispatch({ type: 'go', id: current });
  }, [stood, current]);
  const selected = useSelected(state, shown);
  const notices = useNotices(store);
  const layout = useRef({ across: 1, rows: 1 });
  const [looking] = useState(() => new Looking());
  const layouts = (settings?.layouts ?? NO_LAYOUTS) as Seen['layouts'];
  const [pile, choosePile] = useCurrentPile(piles);
  const into = useIntoAlbums();
  const { album, chooseAlbum } = into;
  const finishing = useFinishing({ store, shoot, state, dispatch, current, selected });
  const clock = useClocks(shootId, shoot, takes);
  useKeptPlace(shootId, state, current);
  const leave = useAddress(state, current, dispatch);
  const goTo = useGoTo(leave, shootId, pile?.id ?? null, pass, state.pass, notices.say, () =>
    current === null ? undefined : shoot.byId.get(current),
  );
  const bindings = useBindings();
  const keyOf = useCallback((action: string) => bindings.shown(action), [bindings]);
  const seen = { store, shoot, rules, state, dispatch, shown, takes, current, at, selected, notices };
  const all = {
    ...seen,
    looking,
    layout,
    goTo,
    found,
    mail: (ids: readonly string[]) => leave(`/shoots/${shootId}/deliver?mail=${ids.join(',')}`),
    find: (question: Parameters<Seen['find']>[0]) =>
      leave(`/find?${questionText({ ...NO_QUESTION, ...question })}`),
    layouts,
    pile,
    album,
    shootId,
    see: pass.see,
    pass: pass.running,
    keyOf,
    clock,
    finishing,
    finishes: settings?.finishes ?? NO_FINISHES,
  };
  useLooked(pass, state, current);
  const newest = useFollowNewest(
    state.follow,
    { length: shown.length, frame: (i) => shoot.frames[shown.places[i]!], version: shown },
    current,
    dispatch,
  );
  useTogether(shootId, state.together, current, (id) => shown.has(id), dispatch);
  const run = useLatest((command: CullCommand) => runCommand(command, all));
  const putInto = useLatest((one: PileChoice) => {
    choosePile(one);
    intoPile(one, all, false);
  });
  const putIntoAlbum = useLatest((one: AlbumChoice) => {
    chooseAlbum(one);
    intoAlbum(one, all, false);
  });
  const note = useLatest((text: string | null) => writeNote(text, all));
  const sayWords = useLatest((wish: WordsWish) => writeWords(wish, all));
  const putOn = useLatest((wish: FinishWish) => putWish(wish, all));
  const prefix = useCullKeys(bindings, run, notices.say);
  const everywhere = useEverywhere(state.filter);
  const frames = shoot.order.length;
  return {
    found,
    newest,
    piles,
    pile,
    pass,
    keyOf,
    albums: into.albums,
    album,
    putInto,
    putIntoAlbum,
    note,
    sayWords,
    targetFrames: state.wordsLine ? targetsOf(all).flatMap((id) => shoot.byId.get(id) ?? []) : NO_TARGETS,
    /** those that a mark would go to */
    chosen: () => Promise.resolve(targetsOf(all).flatMap((id) => shoot.byId.get(id) ?? [])),
    targets: selected.length > 0 ? selected.length : current === null ? 0 : 1,
    shoot,
    state,
    dispatch,
    shown,
    takes,
    clock,
    finishing,
    putFinish: putOn,
    folds,
    rules,
    looking,
    bindings,
    names,
    everywhere,
    filters: settings?.filters ?? NO_LAYOUTS,
    layouts: settings?.layouts ?? NO_LAYOUTS,
    current: current === null ? null : (shoot.byId.get(current) ?? null),
    at,
    /** ids of the current frame's take, in order of time */
    take: useMemo(() => (current === null ? [] : takes.idsWith(current)), [takes, current]),
    ofTake: current === null ? null : takes.with(current),
    selected,
    notice: notices.notice,
    say: notices.say,
    /** what can follow the key that was pressed, while one is waited for */
    prompt: prefix === null ? '' : prefixWords(prefix, bindings, names),
    offer: notices.offer,
    endOffer: notices.endOffer,
    line,
    chips: useMemo(() => filterChips(state.filter, rules, line), [state.filter, rules, line]),
    run,
    onLayout: useCallback((made: { across: number; rows: number }) => {
      layout.current = made;
    }, []),
    /** the sentence of the empty state, or null while frames are shown */
    empty:
      frames > 0 && shown.length === 0
        ? `All ${frames} frames are hidden by: ${filterWords(state.filter, rules, line)}.`
        : null,
  };
}

/** What stands side by side stays there, whatever the filter says of it meanwhile. */
const stands = ({ view, panes, current }: CullState, shoot: ShootState): boolean =>
  view === 'side' && current !== null && panes.includes(current) && shoot.order.has(current);

/** A function of one identity that always runs the newest closure. */
function useLatest<A>(work: (argument: A) => void): (argument: A) => void {
  const latest = useRef(work);
  useEffect(() => {
    latest.current = work;
  });
  return useCallback((argument: A) => latest.current(argument), []);
}

function useShown(
  shoot: ShootState,
  { filter, held, order }: CullState,
  rules: KeeperRules,
  only: ReadonlySet<string> | null,
  takes: Takes,
  line: LineContext,
): Shown {
  const [showing] = useState(() => new Showing());
  const asked = useMemo(() => toFilter(filter, rules, line), [filter, rules, line]);
  return showing.of(shoot, asked, held, order, only, takes.rows);
}

function useTakes(shoot: ShootState, strict: number, together: boolean): Takes {
  const [grouping] = useState(() => new Grouping());
  return grouping.of(shoot, strict, together);
}

/** A mark goes to what is seen: what the filter hides, and what the single view does not show, gets none. */
const useSelected = ({ view, selection }: CullState, shown: Shown): readonly string[] =>
  useMemo(
    () => (view === 'sheet' && selection.length > 0 ? selection.filter((id) => shown.has(id)) : NONE),
    [view, selection, shown],
  );
const NONE: readonly string[] = [];

function useNotices(store: ShootStore): Notices {
  const [notice, say] = useState('');
  const [offer, offerBack] = useState('');
  const endOffer = useCallback(() => offerBack(''), []);
  // A sidecar that could not be written, or that two programs changed, is said where the marks are made.
  useEffect(
    () =>
      listen<{ frameId: string; message: string }>('sidecar', ({ frameId, message }) => {
        if (store.snapshot().byId.has(frameId)) say(message);
      }),
    [store],
  );
  return { notice, offer, say, offerBack, endOffer };
}

/** On to what comes after this shoot. */
function useGoTo(
  leave: (to: string) => void,
  shootId: string,
  pileId: string | null,
  { running, save }: PassOf,
  passId: string | null,
  say: (words: string) => void,
  frame: () => LoadedFrame | undefined,
): Seen['goTo'] {
  const latest = useRef(frame);
  useEffect(() => {
    latest.current = frame;
  });
  return useCallback(
    (where) => {
      if (where === 'shoot') {
        const { shootId: its, id } = latest.current() ?? {};
        return its && id ? leave(`/shoots/${its}/cull?view=single&frame=${id}`) : undefined;
      }
      if (where === 'history' || where === 'frameHistory') {
        // Of found frames each has its own shoot.
        const { shootId: its, id } = latest.current() ?? {};
        const of = where === 'frameHistory' && id ? `?frame=${id}` : '';
        return leave(`/shoots/${its ?? shootId}/history${of}`);
      }
      if (where === 'handoff') return leave(`/shoots/${shootId}/handoff`);
      if (where === 'pile') return leave(`/piles/${pileId}`);
      if (running && passId !== null) {
        const next = running.next();
        if (!next) return say('No other shoot of this pass has frames that were not seen');
        // What was seen here is with the server before the other shoot asks for it.
        return void save().then(() => leave(passAddress(next.shootId, passId, next.frame)));
      }
      void get('/shoots').then(
        (shoots) => {
          const here = shoots.findIndex(({ id }) => id === shootId);
          const after = [...shoots.slice(here + 1), ...shoots.slice(0, Math.max(0, here))];
          const next = after.find(({ frames, keepers, rejects }) => frames - keepers - rejects > 0);
          if (next) leave(`/shoots/${next.id}/cull`);
          else say(`Nothing is left to cull in the newest ${shoots.length} shoots`);
        },
        (error: Error) => say(error.message),
      );
    },
    [leave, shootId, pileId, running, passId, save, say],
  );
}

const NO_TARGETS: readonly LoadedFrame[] = [];
const NO_FINISHES: Api['NamedFinishDto'][] = [];
const NO_PILES: Api['PileDto'][] = [];
const NO_LAYOUTS: Api['KeptByNameDto'][] = [];

/** Whether the filter goes along to every shoot. */
function useEverywhere(filter: CullFilter): { is: boolean; set: (is: boolean) => void } {
  const [is, set] = useState(() => filterEverywhere() !== null);
  const before = useRef(is);
  useEffect(() => {
    if (is || before.current) keepEverywhere(is ? filter : null);
    before.current = is;
  }, [is, filter]);
  return { is, set };
}

function useKeptPlace(shootId: string, state: CullState, current: string | null): void {
  const place = JSON.stringify({ ...keptOf(state), current });
  useEffect(() => keepPlace(shootId, place), [shootId, place]);
}
