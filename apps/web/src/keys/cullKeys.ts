import type { Label, Verdict } from '@arkiv/core';
import { LABELS } from '@arkiv/core';

/** What a key does in Cull. */
export type CullCommand =
  | { do: 'step'; by: 1 | -1 }
  | { do: 'row'; by: 1 | -1 }
  | { do: 'end'; to: 'first' | 'last' }
  | { do: 'page'; by: 1 | -1 }
  | { do: 'extend'; by: 1 | -1; row?: boolean }
  | { do: 'walk'; by: 1 | -1; row?: boolean }
  | { do: 'verdict'; to: Verdict }
  | { do: 'stars'; to: number }
  | { do: 'label'; to: Label | null }
  | { do: 'view'; to: 'single' | 'sheet' }
  | {
      do:
        | 'undo'
        | 'redo'
        | 'stepOn'
        | 'facts'
        | 'surround'
        | 'drawer'
        | 'column'
        | 'filter'
        | 'showAll'
        | 'keys'
        | 'selectAll'
        | 'selectToggle'
        | 'selectNone';
    }
  | { do: 'size'; by: 1 | -1 };

export interface KeyEntry {
  /** as `pressNames` names it */
  hotkey: string;
  /** as it is shown */
  shown: string;
  does: string;
  group: 'Move' | 'Mark' | 'Look' | 'Undo';
  command: CullCommand;
}

const stars = [1, 2, 3, 4, 5].map((n): KeyEntry => ({
  hotkey: String(n),
  shown: String(n),
  does: `${n}★`,
  group: 'Mark',
  command: { do: 'stars', to: n },
}));
const labels = LABELS.map((label, i): KeyEntry => ({
  hotkey: `l>${i + 1}`,
  shown: `L then ${i + 1}`,
  does: `label ${label}`,
  group: 'Mark',
  command: { do: 'label', to: label },
}));

/** What a held key goes on doing: it moves, it never marks. */
const REPEATED: readonly CullCommand['do'][] = ['step', 'row', 'page', 'extend', 'walk', 'size'];
export const repeats = (command: CullCommand): boolean => REPEATED.includes(command.do);

/** The key after which a digit chooses a label. */
export const LABEL_PREFIX = 'l';

/** The defaults: the left hand marks, the right hand moves. */
export const CULL_KEYS: readonly KeyEntry[] = [
  { hotkey: 'arrowright', shown: '→', does: 'next frame', group: 'Move', command: { do: 'step', by: 1 } },
  { hotkey: 'arrowleft', shown: '←', does: 'previous frame', group: 'Move', command: { do: 'step', by: -1 } },
  {
    hotkey: 'arrowdown',
    shown: '↓',
    does: 'row below · next take',
    group: 'Move',
    command: { do: 'row', by: 1 },
  },
  {
    hotkey: 'arrowup',
    shown: '↑',
    does: 'row above · previous take',
    group: 'Move',
    command: { do: 'row', by: -1 },
  },
  { hotkey: 'home', shown: 'Home', does: 'first frame', group: 'Move', command: { do: 'end', to: 'first' } },
  { hotkey: 'end', shown: 'End', does: 'last frame', group: 'Move', command: { do: 'end', to: 'last' } },
  {
    hotkey: 'pagedown',
    shown: 'Page ↓',
    does: 'a screenful on',
    group: 'Move',
    command: { do: 'page', by: 1 },
  },
  {
    hotkey: 'pageup',
    shown: 'Page ↑',
    does: 'a screenful back',
    group: 'Move',
    command: { do: 'page', by: -1 },
  },
  {
    hotkey: 'shift+arrowright',
    shown: 'Shift →',
    does: 'select on to the next',
    group: 'Move',
    command: { do: 'extend', by: 1 },
  },
  {
    hotkey: 'shift+arrowleft',
    shown: 'Shift ←',
    does: 'select back',
    group: 'Move',
    command: { do: 'extend', by: -1 },
  },
  {
    hotkey: 'shift+arrowdown',
    shown: 'Shift ↓',
    does: 'select on to the row below',
    group: 'Move',
    command: { do: 'extend', by: 1, row: true },
  },
  {
    hotkey: 'shift+arrowup',
    shown: 'Shift ↑',
    does: 'select back to the row above',
    group: 'Move',
    command: { do: 'extend', by: -1, row: true },
  },
  ...(
    [
      ['right', '→', 1, false],
      ['left', '←', -1, false],
      ['down', '↓', 1, true],
      ['up', '↑', -1, true],
    ] as const
  ).map(([arrow, sign, by, row]): KeyEntry => ({
    hotkey: `ctrl+arrow${arrow}`,
    shown: `Ctrl ${sign}`,
    does: 'move, and keep what is selected',
    group: 'Move',
    command: { do: 'walk', by, row },
  })),
  {
    hotkey: 'space',
    shown: 'Space',
    does: 'select this one too, or no longer',
    group: 'Move',
    command: { do: 'selectToggle' },
  },
  {
    hotkey: 'ctrl+a',
    shown: 'Ctrl A',
    does: 'select all shown',
    group: 'Move',
    command: { do: 'selectAll' },
  },
  {
    hotkey: 'escape',
    shown: 'Esc',
    does: 'leave the drawer · end the selection',
    group: 'Move',
    command: { do: 'selectNone' },
  },
  { hotkey: 'f', shown: 'F', does: 'keep', group: 'Mark', command: { do: 'verdict', to: 'keep' } },
  { hotkey: 'd', shown: 'D', does: 'reject', group: 'Mark', command: { do: 'verdict', to: 'reject' } },
  {
    hotkey: 's',
    shown: 'S',
    does: 'back to undecided',
    group: 'Mark',
    command: { do: 'verdict', to: 'undecided' },
  },
  ...stars,
  { hotkey: '0', shown: '0', does: 'no stars', group: 'Mark', command: { do: 'stars', to: 0 } },
  ...labels,
  { hotkey: 'l>0', shown: 'L then 0', does: 'no label', group: 'Mark', command: { do: 'label', to: null } },
  {
    hotkey: 'a',
    shown: 'A',
    does: 'step on after marking, on or off',
    group: 'Mark',
    command: { do: 'stepOn' },
  },
  { hotkey: 'q', shown: 'Q', does: 'contact sheet', group: 'Look', command: { do: 'view', to: 'sheet' } },
  { hotkey: 'w', shown: 'W', does: 'single', group: 'Look', command: { do: 'view', to: 'single' } },
  { hotkey: 'enter', shown: 'Enter', does: 'single', group: 'Look', command: { do: 'view', to: 'single' } },
  { hotkey: '+', shown: '+', does: 'larger thumbnails', group: 'Look', command: { do: 'size', by: 1 } },
  { hotkey: '-', shown: '−', does: 'smaller thumbnails', group: 'Look', command: { do: 'size', by: -1 } },
  { hotkey: 'c', shown: 'C', does: 'facts: none, short, full', group: 'Look', command: { do: 'facts' } },
  {
    hotkey: 'b',
    shown: 'B',
    does: 'surround: black, dark, 18 % grey, white',
    group: 'Look',
    command: { do: 'surround' },
  },
  { hotkey: 'h', shown: 'H', does: 'open or close the drawer', group: 'Look', command: { do: 'drawer' } },
  {
    hotkey: 'j',
    shown: 'J',
    does: 'the take beside the picture, on or off',
    group: 'Look',
    command: { do: 'column' },
  },
  { hotkey: '/', shown: '/', does: 'filter', group: 'Look', command: { do: 'filter' } },
  { hotkey: '?', shown: '?', does: 'all keys', group: 'Look', command: { do: 'keys' } },
  {
    hotkey: 'backspace',
    shown: 'Backspace',
    does: 'show all: clear the filter',
    group: 'Look',
    command: { do: 'showAll' },
  },
  { hotkey: 'ctrl+z', shown: 'Ctrl Z', does: 'undo', group: 'Undo', command: { do: 'undo' } },
  { hotkey: 'ctrl+shift+z', shown: 'Ctrl Shift Z', does: 'redo', group: 'Undo', command: { do: 'redo' } },
];

/** What the first of a press's names is bound to; `prefix` is the key that stands before it, as `l>`. */
export const boundTo = (
  names: readonly string[],
  prefix = '',
  bindings: readonly KeyEntry[] = CULL_KEYS,
): KeyEntry | undefined =>
  names.flatMap((name) => bindings.find(({ hotkey }) => hotkey === prefix + name) ?? [])[0];
