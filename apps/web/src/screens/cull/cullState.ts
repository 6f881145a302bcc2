import { describe, EVERYTHING, INCOMPLETE, type Filter, type Verdict } from '@arkiv/core';
import type { Place } from '../../data/keptPlaces';

export type StarsKind = 'any' | 'atLeast' | 'is' | 'atMost';

/** The filter as the drawer shows it. */
export interface CullFilter {
  /** empty: all */
  verdicts: Verdict[];
  /** `n` null: none chosen yet, which hides nothing */
  stars: { kind: StarsKind; n: number | null };
  /** part of the name, ours or the camera's */
  text?: string;
  /** as `QueryFrame.format`; missing or empty: all */
  formats?: string[];
  /** only frames whose file is incomplete */
  incomplete?: boolean;
}

export const NO_FILTER: CullFilter = { verdicts: [], stars: { kind: 'any', n: null } };

/** What a filter is made of, part by part, in the order in which it is read. */
function partsOf({
  verdicts,
  stars,
  text = '',
  formats = [],
  incomplete = false,
}: CullFilter): { part: Filter; without: Partial<CullFilter> }[] {
  const parts: { part: Filter; without: Partial<CullFilter> }[] = [];
  if (verdicts.length > 0)
    parts.push({ part: { field: 'verdict', oneOf: verdicts }, without: { verdicts: [] } });
  if (stars.kind !== 'any' && stars.n !== null)
    parts.push({
      part: { field: 'stars', [stars.kind]: stars.n } as Filter,
      without: { stars: NO_FILTER.stars },
    });
  if (formats.length > 0) parts.push({ part: { field: 'format', oneOf: formats }, without: { formats: [] } });
  if (incomplete) parts.push({ part: { field: 'sign', is: INCOMPLETE }, without: { incomplete: false } });
  const contains = text.trim();
  if (contains !== '')
    parts.push({
      part: {
        any: [
          { field: 'name', contains },
          { field: 'original', contains },
        ],
      },
      without: { text: '' },
    });
  return parts;
}

export function toFilter(filter: CullFilter): Filter {
  const parts = partsOf(filter).map(({ part }) => part);
  return parts.length === 0 ? EVERYTHING : { all: parts };
}

/** What hides frames, one chip for each part, with the filter that is left when that part is taken away. */
export const filterChips = (filter: CullFilter): { words: string; rest: CullFilter }[] =>
  partsOf(filter).map(({ part, without }) => ({ words: describe(part), rest: { ...filter, ...without } }));

export interface CullState {
  view: 'single' | 'sheet';
  current: string | null;
  /** frames that marks apply to besides the current one; in order of picking */
  selection: readonly string[];
  anchor: string | null;
  filter: CullFilter;
  /** frames that left the filter by a mark: they stay until the next step */
  held: readonly string[];
  stepOn: boolean;
  /** 0 black … 3 white */
  surround: number;
  facts: 'none' | 'short' | 'full';
  drawer: boolean;
  keys: boolean;
  /** pixels of a thumbnail cell */
  cell: number;
  /** the column with the current take, in single view */
  column: boolean;
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
  surround: 1,
  facts: 'short',
  drawer: false,
  keys: false,
  cell: 220,
  column: true,
};

/** What is shown, as far as choosing needs it: an array of ids is one. */
export interface Listed {
  indexOf(id: string): number;
  slice(from?: number, to?: number): string[];
}

export type CullAction =
  | { type: 'go'; id: string }
  | { type: 'walk'; id: string }
  | { type: 'pick'; id: string; how: 'only' | 'toggle' | 'range'; visible: Listed }
  | { type: 'selectAll'; visible: Listed }
  | { type: 'selectNone' }
  | { type: 'marked'; held: readonly string[] }
  | { type: 'return'; place: Place }
  | { type: 'filter'; filter: CullFilter }
  | { type: 'cycle'; what: 'surround' | 'facts' }
  | { type: 'toggle'; what: 'stepOn' | 'drawer' | 'keys' | 'column' }
  | { type: 'openDrawer' }
  | { type: 'closeDrawer' }
  | { type: 'view'; view: CullState['view'] }
  | { type: 'size'; by: 1 | -1 }
  | { type: 'cell'; cell: number };

const FACTS = ['none', 'short', 'full'] as const;

export function reduceCull(state: CullState, action: CullAction): CullState {
  switch (action.type) {
    case 'go':
      return { ...state, current: action.id, anchor: action.id, selection: [], held: [] };
    case 'walk': {
      // What stood alone before the first step away stays selected.
      const kept = state.selection.length > 0 ? state.selection : state.current ? [state.current] : [];
      return { ...state, view: 'sheet', current: action.id, selection: kept };
    }
    case 'pick':
      return pick(state, action);
    case 'selectAll':
      return { ...state, view: 'sheet', selection: action.visible.slice() };
    case 'selectNone':
      return { ...state, selection: [], anchor: state.current };
    case 'marked':
      return { ...state, held: action.held };
    case 'return': {
      const { current, selection } = action.place;
      // Several frames are seen on the sheet only.
      const view = selection.length > 1 ? 'sheet' : state.view;
      const held = selection.length > 0 ? selection : current ? [current] : [];
      return { ...state, view, current, anchor: current, selection, held };
    }
    case 'filter':
      return { ...state, filter: action.filter, held: [], selection: [] };
    case 'cycle':
      if (action.what === 'surround') return { ...state, surround: (state.surround + 1) % 4 };
      return { ...state, facts: FACTS[(FACTS.indexOf(state.facts) + 1) % FACTS.length]! };
    case 'toggle':
      return { ...state, [action.what]: !state[action.what] };
    case 'openDrawer':
      return { ...state, drawer: true };
    case 'closeDrawer':
      return { ...state, drawer: false };
    case 'view':
      // What is selected is seen on the sheet only: opening a frame ends it.
      return { ...state, view: action.view, selection: action.view === 'sheet' ? state.selection : [] };
    case 'size': {
      const next =
        action.by === 1 ? CELLS.find((c) => c > state.cell) : CELLS.findLast((c) => c < state.cell);
      return { ...state, cell: next ?? state.cell };
    }
    case 'cell':
      return { ...state, cell: Math.min(CELLS.at(-1)!, Math.max(CELLS[0], action.cell)) };
  }
}

function pick(state: CullState, action: Extract<CullAction, { type: 'pick' }>): CullState {
  const { id, how, visible } = action;
  if (how === 'only') return { ...state, current: id, anchor: id, selection: [], held: [] };
  if (how === 'toggle') {
    const before = state.selection.length > 0 ? state.selection : state.current ? [state.current] : [];
    const selection = before.includes(id) ? before.filter((s) => s !== id) : [...before, id];
    return { ...state, view: 'sheet', current: id, anchor: id, selection };
  }
  const from = visible.indexOf(state.anchor ?? state.current ?? id);
  const to = visible.indexOf(id);
  const [low, high] = from < to ? [from, to] : [to, from];
  return { ...state, view: 'sheet', current: id, selection: visible.slice(Math.max(0, low), high + 1) };
}
