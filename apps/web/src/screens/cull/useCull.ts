import { describe, type MarkField, type MarkValue } from '@arkiv/core';
import {
  useCallback,
  useEffect,
  useMemo,
  useReducer,
  useRef,
  useState,
  useSyncExternalStore,
  type Dispatch,
} from 'react';
import { useSearchParams } from 'react-router';
import { many } from '../../data/format';
import { labelNames } from '../../data/labels';
import { useSettings } from '../../data/live';
import { useOfOrder } from '../../data/ofOrder';
import { shootStore, type ShootState, type ShootStore, type Step } from '../../data/shootStore';
import { listen } from '../../data/stream';
import type { CullCommand } from '../../keys/cullKeys';
import { keepPlace, keptPlace } from './cullPlace';
import {
  filterChips,
  NO_FILTER,
  reduceCull,
  toFilter,
  type CullAction,
  type CullFilter,
  type CullState,
} from './cullState';
import { labelPrompt, markWords, stepWords } from './cullWords';
import { Showing, type Shown } from './shown';
import { Takes } from './takes';
import { useCullKeys } from './useCullKeys';

/** Frames that a screenful is in the single view. */
const PAGE = 10;

/** Everything Cull knows and does; the screen only draws it. */
export function useCull(shootId: string) {
  const store = shootStore(shootId);
  const shoot = useSyncExternalStore(store.subscribe, store.snapshot);
  const [state, dispatch] = useReducer(reduceCull, shootId, keptPlace);
  const shown = useShown(shoot, state.filter, state.held);
  const takes = useTakes(shoot);
  const current =
    state.current !== null && shown.has(state.current) ? state.current : shown.nearest(state.current);
  const at = current === null ? -1 : shown.indexOf(current);
  const selected = useSelected(state, shown);
  const notices = useNotices(store);
  const layout = useRef({ across: 1, rows: 1 });
  const seen = { store, state, dispatch, shown, takes, current, at, selected, notices, layout };
  const run = useLatest((command: CullCommand) => runCommand(command, seen));
  const prefix = useCullKeys(run, notices.say);
  useKeptPlace(shootId, state, current);
  const { data: settings } = useSettings();
  const names: Record<string, string> = labelNames(settings);
  const all = shoot.order.length;
  return {
    shoot,
    state,
    dispatch,
    shown,
    takes,
    current: current === null ? null : (shoot.byId.get(current) ?? null),
    at,
    /** ids of the current frame's take, in order of time */
    take: useMemo(() => (current === null ? [] : takes.idsWith(current)), [takes, current]),
    selected,
    notice: notices.notice,
    /** what the digits after L mean, while one is waited for */
    prompt: prefix ? labelPrompt(names) : '',
    offer: notices.offer,
    endOffer: notices.endOffer,
    chips: useMemo(() => filterChips(state.filter), [state.filter]),
    run,
    onLayout: useCallback((made: { across: number; rows: number }) => {
      layout.current = made;
    }, []),
    /** the sentence of the empty state, or null while frames are shown */
    empty:
      all > 0 && shown.length === 0
        ? `All ${all} frames are hidden by: ${describe(toFilter(state.filter))}.`
        : null,
  };
}

/** A function of one identity that always runs the newest closure. */
function useLatest<A>(work: (argument: A) => void): (argument: A) => void {
  const latest = useRef(work);
  useEffect(() => {
    latest.current = work;
  });
  return useCallback((argument: A) => latest.current(argument), []);
}

function useShown(shoot: ShootState, filter: CullFilter, held: readonly string[]): Shown {
  const [showing] = useState(() => new Showing());
  const asked = useMemo(() => toFilter(filter), [filter]);
  return showing.of(shoot, asked, held);
}

const useTakes = (shoot: ShootState): Takes => useOfOrder(shoot, Takes.of);

/** A mark goes to what is seen: what the filter hides, and what the single view does not show, gets none. */
const useSelected = ({ view, selection }: CullState, shown: Shown): readonly string[] =>
  useMemo(
    () => (view === 'sheet' && selection.length > 0 ? selection.filter((id) => shown.has(id)) : NONE),
    [view, selection, shown],
  );
const NONE: readonly string[] = [];

interface Notices {
  notice: string;
  /** said of a mark on several frames, with the way back, until something else is marked */
  offer: string;
  say: (words: string) => void;
  offerBack: (words: string) => void;
  endOffer: () => void;
}

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

function useKeptPlace(shootId: string, state: CullState, current: string | null): void {
  const { view, stepOn, surround, facts, cell, column, filter } = state;
  useEffect(
    () => keepPlace(shootId, { view, current, stepOn, surround, facts, cell, column, filter }),
    [shootId, view, current, stepOn, surround, facts, cell, column, filter],
  );
  // The frame that a link named is gone to once: a reload comes back to where one was.
  const [search, setSearch] = useSearchParams();
  useEffect(() => {
    if (search.has('frame')) setSearch({}, { replace: true });
  }, [search, setSearch]);
}

/** What a command works on. */
interface Seen {
  store: ShootStore;
  state: CullState;
  dispatch: Dispatch<CullAction>;
  shown: Shown;
  takes: Takes;
  current: string | null;
  at: number;
  selected: readonly string[];
  notices: Notices;
  layout: { current: { across: number; rows: number } };
}

function mark(field: MarkField, to: MarkValue, seen: Seen): void {
  const { store, state, dispatch, shown, current, at, selected, notices } = seen;
  if (!current) return;
  const targets = selected.length > 0 ? selected : [current];
  const several = targets.length > 1;
  const place = { current, selection: several ? targets : [] };
  const operations = store.mark(targets, field, to, place);
  notices.offerBack(several ? `${many(operations.length, 'frame')} changed: ${markWords(field, to)}.` : '');
  notices.say('');
  if (!state.stepOn || several || targets[0] !== current) return dispatch({ type: 'marked', held: targets });
  // Seen from the list as it was before the mark: the next one, wherever this one went.
  const next = shown.id(at + 1);
  dispatch(next ? { type: 'go', id: next } : { type: 'marked', held: [current] });
  if (!next) notices.say('That was the last one shown');
}

/** Undo and redo: said, and gone to where the marks were made. */
function takeBack(stepping: Promise<Step | null>, words: string, { store, dispatch, notices }: Seen): void {
  notices.endOffer();
  void stepping.then(
    (step) => {
      if (!step) return notices.say(`Nothing to ${words}`);
      // Those that are in another shoot by now are not gone to.
      const { place, ids } = step;
      const to = place?.current ?? ids[0] ?? null;
      if (to !== null && store.snapshot().byId.has(to))
        dispatch({ type: 'return', place: { current: to, selection: place?.selection ?? [] } });
      notices.say(stepWords(step, words));
    },
    (error: Error) => notices.say(`Could not ${words}: ${error.message}`),
  );
}

function runCommand(command: CullCommand, seen: Seen): void {
  const { store, state, dispatch, shown, takes, current, at, notices, layout } = seen;
  const sheet = state.view === 'sheet';
  const goTo = (index: number) => {
    const id = shown.id(Math.min(shown.length - 1, Math.max(0, index)));
    if (id) dispatch({ type: 'go', id });
  };
  const rowStep = (by: 1 | -1) => (sheet ? at + by * layout.current.across : takes.step(shown, at, by));
  /** the frame that a step leads to; past either end there is none */
  const stepped = ({ by, row }: { by: 1 | -1; row?: boolean }) => shown.id(row ? rowStep(by) : at + by);
  if (command.do !== 'undo' && command.do !== 'redo') notices.say('');
  switch (command.do) {
    case 'step':
      return goTo(at + command.by);
    case 'row':
      return goTo(rowStep(command.by));
    case 'page':
      return goTo(at + command.by * (sheet ? layout.current.across * layout.current.rows : PAGE));
    case 'end':
      return goTo(command.to === 'first' ? 0 : shown.length - 1);
    case 'extend': {
      const id = stepped(command);
      return id ? dispatch({ type: 'pick', id, how: 'range', visible: shown }) : undefined;
    }
    case 'walk': {
      const id = stepped(command);
      return id ? dispatch({ type: 'walk', id }) : undefined;
    }
    case 'selectToggle':
      return current ? dispatch({ type: 'pick', id: current, how: 'toggle', visible: shown }) : undefined;
    case 'verdict':
    case 'stars':
    case 'label':
      return mark(command.do, command.to, seen);
    case 'view':
      return dispatch({ type: 'view', view: command.to });
    case 'undo':
      return takeBack(store.undo(), 'undo', seen);
    case 'redo':
      return takeBack(store.redo(), 'redo', seen);
    case 'facts':
    case 'surround':
      return dispatch({ type: 'cycle', what: command.do });
    case 'stepOn':
    case 'drawer':
    case 'column':
    case 'keys':
      return dispatch({ type: 'toggle', what: command.do });
    case 'filter':
      return dispatch({ type: 'openDrawer' });
    case 'showAll':
      return dispatch({ type: 'filter', filter: NO_FILTER });
    case 'selectAll':
      return dispatch({ type: 'selectAll', visible: shown });
    case 'selectNone':
      // One Escape, one thing left: the drawer, then the line of the last mark, then the selection.
      if (state.drawer) return dispatch({ type: 'closeDrawer' });
      if (notices.offer) return notices.endOffer();
      return dispatch({ type: 'selectNone' });
    case 'size':
      return dispatch({ type: 'size', by: command.by });
  }
}
