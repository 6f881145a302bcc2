import { BY_TIME, type Doubt, type FrameOrdering, type MarkField } from '@arkiv/core';
import type { Place } from '../../data/keptPlaces';
import type { Over } from '../../data/pixels';
import { NO_FILTER, type CullFilter } from './cullFilter';

/** What of a look stands in the address, so that it can be come back to, kept and passed on. */
export interface Addressed {
  view: 'single' | 'sheet';
  current: string | null;
  filter: CullFilter;
  /** the pass that one comes with; missing: what there was stays */
  pass?: string;
}

export type View = 'single' | 'sheet' | 'side' | 'run';

/** The run-through: the frames go by alone. */
export interface Run {
  paused: boolean;
  back: boolean;
  seconds: number;
}

/** What a hand on the picture does while it is finished. */
export type FinishMode = 'tones' | 'crop' | 'level' | 'grey';

/** Seconds for a frame of the run-through, from a riffle to a slow look. */
export const PACES = [0.5, 1, 2, 3, 5, 8] as const;

export interface CullState {
  view: View;
  current: string | null;
  /** frames that marks apply to besides the current one; in order of picking */
  selection: readonly string[];
  anchor: string | null;
  filter: CullFilter;
  /** frames that left the filter by a mark: they stay until the next step */
  held: readonly string[];
  stepOn: boolean;
  /** the marks after which it steps on */
  stepAfter: readonly MarkField[];
  /** 0 black … 3 white */
  surround: number;
  facts: 'none' | 'short' | 'full';
  drawer: boolean;
  keys: boolean;
  /** everything the camera wrote is being read */
  camera: boolean;
  /** pixels of a thumbnail cell */
  cell: number;
  /** the column with the current take, in single view */
  column: boolean;
  /** the picture alone, without anything around it */
  alone: boolean;
  histogram: boolean;
  /** what is laid over the picture */
  over: 'none' | Over;
  /** which picture of the current frame is seen, see `versionsOf`; 0: the one that shows it everywhere */
  version: number;
  /** frames that stand side by side; the current one is among them */
  panes: readonly string[];
  run: Run;
  /** where to is being typed */
  jump: boolean;
  /** the pile is being chosen */
  pileLine: boolean;
  albumLine: boolean;
  /** names or folders of what is marked are being changed */
  arranging: boolean;
  /** it is shown where files lie */
  where: boolean;
  /** a note is being written */
  noteLine: boolean;
  wordsLine: boolean;
  /** the pass that one is in; null: none */
  pass: string | null;
  /** all windows of this browser that show the shoot stand at the same frame */
  together: boolean;
  /** whoever stands at the newest frame goes on to each that comes */
  follow: boolean;
  /** what is being finished: tones and all, or with a hand on the picture; null: nothing */
  finishing: FinishMode | null;
  /** passes are being looked at */
  passes: boolean;
  order: FrameOrdering;
  /** −1, loosely … 1, strictly: how frames are grouped into takes */
  strict: number;
  /** takes that two bodies shot at one moment are one */
  bodiesTogether: boolean;
  /** on the sheet one frame stands for its take */
  folded: boolean;
  /** what is doubtful is gone through: frames with the one before each, and at which one stands; null: it is not */
  doubts: { of: readonly Pick<Doubt, 'id' | 'before'>[]; at: number } | null;
}

/** The steps of the keys: from a dozen across a laptop's window to three, each about a third larger. */
export const CELLS = [100, 130, 170, 220, 290, 380, 500] as const;

export const START: CullState = {
  view: 'single',
  current: null,
  selection: [],
  anchor: null,
  filter: NO_FILTER,
  held: [],
  stepOn: false,
  stepAfter: ['verdict', 'stars', 'label'],
  surround: 1,
  facts: 'short',
  drawer: false,
  keys: false,
  camera: false,
  cell: 220,
  column: true,
  alone: false,
  histogram: false,
  over: 'none',
  version: 0,
  panes: [],
  run: { paused: false, back: false, seconds: 2 },
  jump: false,
  pileLine: false,
  albumLine: false,
  arranging: false,
  where: false,
  noteLine: false,
  wordsLine: false,
  pass: null,
  together: false,
  follow: false,
  finishing: null,
  passes: false,
  order: BY_TIME,
  strict: 0,
  bodiesTogether: false,
  folded: false,
  doubts: null,
};

/** What is shown, as far as choosing needs it: an array of ids is one. */
export interface Listed {
  indexOf(id: string): number;
  slice(from?: number, to?: number): string[];
}

/** How Cull looks, as it is kept by a name. */
export type Layout = Pick<
  CullState,
  'cell' | 'facts' | 'column' | 'drawer' | 'surround' | 'histogram' | 'order'
> & {
  view: 'single' | 'sheet';
};

export const layoutOf = ({
  view,
  cell,
  facts,
  column,
  drawer,
  surround,
  histogram,
  order,
}: CullState): Layout => ({
  view: view === 'sheet' ? 'sheet' : 'single',
  ...{ cell, facts, column, drawer, surround, histogram, order },
});

/** What of a look outlives it, so that stopping costs nothing. */
export const keptOf = (state: CullState): Partial<CullState> =>
  Object.fromEntries(KEPT.map((field) => [field, state[field]]));

const KEPT = [
  ...(['view', 'stepOn', 'stepAfter', 'surround', 'facts', 'cell', 'column', 'histogram'] as const),
  ...([
    'filter',
    'order',
    'strict',
    'bodiesTogether',
    'folded',
    'run',
    'pass',
    'together',
    'follow',
  ] as const),
] as const satisfies readonly (keyof CullState)[];

export type CullAction =
  | { type: 'go'; id: string }
  | { type: 'walk'; id: string }
  | { type: 'pick'; id: string; how: 'only' | 'toggle' | 'range'; visible: Listed }
  | { type: 'selectAll'; visible: Listed }
  | { type: 'lasso'; ids: readonly string[]; add: boolean }
  | { type: 'selectNone' }
  | { type: 'marked'; held: readonly string[] }
  | { type: 'return'; place: Place }
  | ({ type: 'address' } & Addressed)
  | { type: 'filter'; filter: CullFilter }
  | { type: 'cycle'; what: 'surround' | 'facts' }
  | {
      type: 'toggle';
      what:
        | 'stepOn'
        | 'drawer'
        | 'keys'
        | 'camera'
        | 'column'
        | 'alone'
        | 'jump'
        | 'pileLine'
        | 'albumLine'
        | 'arranging'
        | 'where'
        | 'noteLine'
        | 'wordsLine'
        | 'passes'
        | 'together'
        | 'follow'
        | 'bodiesTogether'
        | 'histogram';
    }
  | { type: 'finishing'; as: FinishMode | null }
  | { type: 'strict'; strict: number }
  | { type: 'doubts'; of: readonly Pick<Doubt, 'id' | 'before'>[]; at: number }
  | { type: 'fold'; current: string | null }
  | { type: 'stepAfter'; kinds: readonly MarkField[] }
  | { type: 'pass'; id: string | null; at: string | null }
  | { type: 'over'; over: Over }
  | { type: 'version'; version: number }
  | { type: 'side'; panes: readonly string[]; current: string }
  | { type: 'drop' }
  | { type: 'run'; change: Partial<Run> }
  | { type: 'pace'; by: 1 | -1 }
  | { type: 'order'; order: FrameOrdering }
  | { type: 'layout'; layout: Partial<Layout> }
  | { type: 'leave' }
  | { type: 'openDrawer' }
  | { type: 'closeDrawer' }
  | { type: 'view'; view: CullState['view'] }
  | { type: 'size'; by: 1 | -1 }
  | { type: 'cell'; cell: number };

const FACTS = ['none', 'short', 'full'] as const;

export function reduceCull(state: CullState, action: CullAction): CullState {
  switch (action.type) {
    case 'go': {
      // Side by side another frame takes the place of the current one.
      const panes =
        state.view !== 'side' || state.panes.includes(action.id)
          ? state.panes
          : state.panes.map((id) => (id === state.current ? action.id : id));
      const chosen = { current: action.id, anchor: action.id, selection: [], held: [] };
      return { ...state, ...chosen, panes, version: 0 };
    }
    case 'side':
      return {
        ...state,
        view: 'side',
        panes: action.panes,
        current: action.current,
        anchor: action.current,
        selection: [],
        held: [],
      };
    case 'drop': {
      const at = state.panes.indexOf(state.current ?? '');
      if (state.view !== 'side' || at < 0) return state;
      const panes = state.panes.filter((_, i) => i !== at);
      const current = panes[Math.min(at, panes.length - 1)] ?? state.current;
      // One alone stands beside nothing.
      return { ...state, panes, current, anchor: current, view: panes.length < 2 ? 'single' : 'side' };
    }
    case 'run':
      return { ...state, run: { ...state.run, ...action.change } };
    case 'layout':
      // One that an earlier version kept may lack what came later.
      return { ...state, ...layoutOf({ ...state, ...action.layout }), alone: false };
    case 'over':
      return { ...state, over: state.over === action.over ? 'none' : action.over };
    case 'version':
      return { ...state, version: action.version };
    case 'order':
      return { ...state, order: action.order };
    case 'doubts': {
      const doubt = action.of[action.at];
      if (!doubt) return { ...state, doubts: null, view: 'single' };
      const beside = { type: 'side', panes: [doubt.before, doubt.id], current: doubt.id } as const;
      return { ...reduceCull(state, beside), doubts: { of: action.of, at: action.at } };
    }
    case 'finishing':
      // A hand on the picture has one picture.
      return {
        ...state,
        finishing: action.as,
        view: action.as === 'crop' || action.as === 'level' ? 'single' : state.view,
        version: 0,
      };
    case 'strict':
      return { ...state, strict: action.strict };
    case 'fold':
      return {
        ...state,
        folded: !state.folded,
        view: 'sheet',
        current: action.current ?? state.current,
        selection: [],
      };
    case 'pace': {
      const { seconds } = state.run;
      const next =
        action.by === 1 ? PACES.find((pace) => pace > seconds) : PACES.findLast((p) => p < seconds);
      return { ...state, run: { ...state.run, seconds: next ?? seconds } };
    }
    case 'leave':
      return leave(state);
    case 'walk': {
      // What stood alone before the first step away stays selected.
      const kept = state.selection.length > 0 ? state.selection : state.current ? [state.current] : [];
      return { ...state, view: 'sheet', current: action.id, selection: kept };
    }
    case 'pick':
      return pick(state, action);
    case 'selectAll':
      return { ...state, view: 'sheet', selection: action.visible.slice() };
    case 'lasso': {
      // What was chosen before the drawing began stays where the hand says so.
      const before = action.add ? state.selection.filter((id) => !action.ids.includes(id)) : [];
      const selection = [...before, ...action.ids];
      const current = action.ids.at(-1) ?? state.current;
      return { ...state, view: 'sheet', selection, current, anchor: current, held: [] };
    }
    case 'selectNone':
      return { ...state, selection: [], anchor: state.current };
    case 'marked':
      return { ...state, held: action.held };
    case 'return': {
      const { current, selection } = action.place;
      // Several frames are seen on the sheet only.
      const view = selection.length > 1 && state.view !== 'side' ? 'sheet' : state.view;
      if (state.view === 'side' && current !== null)
        return { ...reduceCull(state, { type: 'go', id: current }), held: [current] };
      const held = selection.length > 0 ? selection : current ? [current] : [];
      return { ...state, view, current, anchor: current, selection, held };
    }
    case 'address': {
      const { view, filter, pass = state.pass } = action;
      const current = action.current ?? state.current;
      const left = { selection: [], held: [], alone: false };
      return { ...state, ...left, view, filter, pass, current, anchor: current };
    }
    case 'filter':
      return { ...state, filter: action.filter, held: [], selection: [] };
    case 'cycle':
      if (action.what === 'surround') return { ...state, surround: (state.surround + 1) % 4 };
      return { ...state, facts: FACTS[(FACTS.indexOf(state.facts) + 1) % FACTS.length]! };
    case 'toggle':
      return { ...state, [action.what]: !state[action.what] };
    case 'stepAfter':
      // Who chooses after what it steps on wants it to step on.
      return { ...state, stepAfter: action.kinds, stepOn: action.kinds.length > 0 };
    case 'pass': {
      const { id, at } = action;
      const began = { ...state, pass: id, passes: false, selection: [], held: [] };
      // A pass is about its own frames: what hid some of them before is over.
      return id === null ? began : { ...began, filter: NO_FILTER, current: at ?? state.current, anchor: at };
    }
    case 'openDrawer':
      return { ...state, drawer: true };
    case 'closeDrawer':
      return { ...state, drawer: false };
    case 'view':
      // What is selected is seen on the sheet only: opening a frame ends it.
      return {
        ...state,
        view: action.view,
        doubts: null,
        selection: action.view === 'sheet' ? state.selection : [],
        run: action.view === 'run' ? { ...state.run, paused: false } : state.run,
      };
    case 'size': {
      const next =
        action.by === 1 ? CELLS.find((c) => c > state.cell) : CELLS.findLast((c) => c < state.cell);
      return { ...state, cell: next ?? state.cell };
    }
    case 'cell':
      return { ...state, cell: Math.min(CELLS.at(-1)!, Math.max(CELLS[0], action.cell)) };
  }
}

/** One Escape, one thing left: what lies over the pictures first, then the way of looking, then the selection. */
function leave(state: CullState): CullState {
  if (state.jump || state.pileLine || state.albumLine || state.noteLine || state.wordsLine)
    return { ...state, jump: false, pileLine: false, albumLine: false, noteLine: false, wordsLine: false };
  if (state.finishing !== null) return { ...state, finishing: state.finishing === 'tones' ? null : 'tones' };
  if (state.alone) return { ...state, alone: false };
  if (state.drawer) return { ...state, drawer: false };
  if (state.view === 'side' || state.view === 'run') return { ...state, view: 'single', doubts: null };
  return { ...state, selection: [], anchor: state.current };
}

function pick(state: CullState, action: Extract<CullAction, { type: 'pick' }>): CullState {
  const { id, how, visible } = action;
  if (how === 'only') return { ...state, current: id, anchor: id, selection: [], held: [] };
  if (how === 'toggle') {
    const before = state.selection.length > 0 ? state.selection : state.current ? [state.current] : [];
    const selection = before.includes(id) ? before.filter((s) => s !== id) : [...before, id];
    return { ...state, view: 'sheet', current: id, anchor: id, selection };
  }
  // Come to by a link, one has stood at no frame before: the first step of a selection sets out from where one stands.
  const anchor = state.anchor ?? state.current ?? id;
  const from = visible.indexOf(anchor);
  const to = visible.indexOf(id);
  const [low, high] = from < to ? [from, to] : [to, from];
  const selection = visible.slice(Math.max(0, low), high + 1);
  return { ...state, view: 'sheet', current: id, anchor, selection };
}
