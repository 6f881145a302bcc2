import { LABELS, TAKE_KIND_WORDS, TAKE_KINDS, type Label, type TakeKind, type Verdict } from '@arkiv/core';

/** What a key does with how frames look. */
export type FinishCommand =
  | { do: 'finish' | 'finishCrop' | 'finishLast' | 'finishMatch' | 'finishNone' }
  | { do: 'finishNamed'; number: number };

/** What a key does in Cull. */
export type CullCommand =
  | { do: 'step'; by: 1 | -1 }
  | { do: 'row'; by: 1 | -1 }
  | { do: 'end'; to: 'first' | 'last' }
  | { do: 'page'; by: 1 | -1 }
  | { do: 'undecided'; by: 1 | -1 }
  | { do: 'extend'; by: 1 | -1; row?: boolean }
  | { do: 'walk'; by: 1 | -1; row?: boolean }
  | { do: 'verdict'; to: Verdict }
  | { do: 'stars'; to: number }
  | { do: 'label'; to: Label | null }
  | { do: 'view'; to: 'single' | 'sheet' | 'side' | 'run' }
  | { do: 'only'; what: 'undecided' | 'keepers' }
  | { do: 'size'; by: 1 | -1 }
  | { do: 'layout'; number: number }
  | { do: 'arrange'; by: 1 | -1 }
  | { do: 'history'; of: 'shoot' | 'frame' }
  | { do: 'take'; deed: 'split' | 'join' | 'out' | 'together' | 'lead' | 'machine' }
  | { do: 'takeKind'; kind: TakeKind }
  | { do: 'takeTo'; id: string }
  | FinishCommand
  | {
      do:
        | 'undo'
        | 'redo'
        | 'fold'
        | 'doubts'
        | 'clock'
        | 'clockLook'
        | 'stepOn'
        | 'facts'
        | 'camera'
        | 'surround'
        | 'histogram'
        | 'clipping'
        | 'focus'
        | 'drawer'
        | 'column'
        | 'alone'
        | 'fullScreen'
        | 'zoom'
        | 'link'
        | 'drop'
        | 'winner'
        | 'noneKept'
        | 'jump'
        | 'pause'
        | 'turn'
        | 'nextShoot'
        | 'handoff'
        | 'mail'
        | 'filter'
        | 'showAll'
        | 'pile'
        | 'pileLine'
        | 'album'
        | 'albumLine'
        | 'shootLead'
        | 'folderLead'
        | 'arranging'
        | 'where'
        | 'before'
        | 'version'
        | 'bookmarks'
        | 'noteLine'
        | 'wordsLine'
        | 'onlyPile'
        | 'passes'
        | 'together'
        | 'follow'
        | 'allOfPile'
        | 'keys'
        | 'find'
        | 'similar'
        | 'nearTime'
        | 'inShoot'
        | 'foldHeading'
        | 'selectAll'
        | 'selectToggle'
        | 'selectNone';
    };

export const GROUPS = ['Move', 'Select', 'Mark', 'Takes', 'Look', 'Finish', 'Find', 'Undo'] as const;
export type Group = (typeof GROUPS)[number];

/** Something that keys can be bound to. */
export interface Action {
  /** what own keys are kept under: it never changes */
  id: string;
  does: string;
  group: Group;
  command: CullCommand;
  /** as `pressNames` names them; `l>1`: one after the other */
  keys: readonly string[];
}

const both = (
  [id, back]: [string, string],
  group: Group,
  make: (by: 1 | -1) => CullCommand,
  [does, undoes]: [string, string],
  [keys, others]: [string[], string[]],
): Action[] => [
  { id, does, group, command: make(1), keys },
  { id: back, does: undoes, group, command: make(-1), keys: others },
];
const one = (id: string, group: Group, does: string, keys: string[], command: CullCommand): Action => ({
  ...{ id, group, does, keys, command },
});

/** Everything Cull does at a key, with the keys that it comes with: the left hand marks, the right hand moves. */
export const ACTIONS: readonly Action[] = [
  ...both(
    ['next', 'previous'],
    'Move',
    (by) => ({ do: 'step', by }),
    ['next frame', 'previous frame'],
    [['arrowright'], ['arrowleft']],
  ),
  ...both(
    ['below', 'above'],
    'Move',
    (by) => ({ do: 'row', by }),
    ['row below · next take', 'row above · previous take'],
    [['arrowdown'], ['arrowup']],
  ),
  ...both(
    ['undecided', 'undecided-back'],
    'Move',
    (by) => ({ do: 'undecided', by }),
    ['next undecided', 'previous undecided'],
    [['u'], ['shift+u']],
  ),
  one('first', 'Move', 'first frame', ['home'], { do: 'end', to: 'first' }),
  one('last', 'Move', 'last frame', ['end'], { do: 'end', to: 'last' }),
  one('follow', 'Move', 'follow the newest frame as it comes, on or off', ['alt+end'], { do: 'follow' }),
  ...both(
    ['page', 'page-back'],
    'Move',
    (by) => ({ do: 'page', by }),
    [
      'a screenful on · side by side: the take’s next page',
      'a screenful back · side by side: the page before',
    ],
    [['pagedown'], ['pageup']],
  ),
  one('jump', 'Move', 'go to a number, a time or a name', ['n'], { do: 'jump' }),
  one('passes', 'Move', 'begin a pass, or stop it', ['m'], { do: 'passes' }),
  one('next-shoot', 'Move', 'next shoot with something left', ['y'], { do: 'nextShoot' }),
  one('handoff', 'Move', 'on to hand-off', ['shift+y'], { do: 'handoff' }),
  one('mail', 'Move', 'send it beside a message …', ['alt+y'], { do: 'mail' }),

  ...both(
    ['extend', 'extend-back'],
    'Select',
    (by) => ({ do: 'extend', by }),
    ['select on to the next', 'select back'],
    [['shift+arrowright'], ['shift+arrowleft']],
  ),
  ...both(
    ['extend-below', 'extend-above'],
    'Select',
    (by) => ({ do: 'extend', by, row: true }),
    ['select on to the row below', 'select back to the row above'],
    [['shift+arrowdown'], ['shift+arrowup']],
  ),
  ...both(
    ['walk', 'walk-back'],
    'Select',
    (by) => ({ do: 'walk', by }),
    [
      'move on, and keep what is selected · side by side: another frame here',
      'move back, and keep what is selected · side by side: an earlier frame here',
    ],
    [['ctrl+arrowright'], ['ctrl+arrowleft']],
  ),
  ...both(
    ['walk-below', 'walk-above'],
    'Select',
    (by) => ({ do: 'walk', by, row: true }),
    ['move down, and keep what is selected', 'move up, and keep what is selected'],
    [['ctrl+arrowdown'], ['ctrl+arrowup']],
  ),
  one('toggle', 'Select', 'select this one too, or no longer', ['space'], { do: 'selectToggle' }),
  one('all', 'Select', 'select all shown', ['ctrl+a'], { do: 'selectAll' }),
  one('leave', 'Select', 'leave what is open · end the selection', ['escape'], { do: 'selectNone' }),

  one('keep', 'Mark', 'keep', ['f', 'pad+'], { do: 'verdict', to: 'keep' }),
  one('reject', 'Mark', 'reject', ['d', 'pad-'], { do: 'verdict', to: 'reject' }),
  one('unmark', 'Mark', 'back to undecided', ['s', 'pad.'], { do: 'verdict', to: 'undecided' }),
  one('winner', 'Mark', 'keep this, reject the rest', ['g'], { do: 'winner' }),
  one('none-kept', 'Mark', 'keep none of the take', ['shift+g'], { do: 'noneKept' }),
  ...[1, 2, 3, 4, 5].map((n) => one(`stars-${n}`, 'Mark', `${n}★`, [String(n)], { do: 'stars', to: n })),
  one('stars-0', 'Mark', 'no stars', ['0'], { do: 'stars', to: 0 }),
  ...LABELS.map((label, i) =>
    one(`label-${label}`, 'Mark', `label ${label}`, [`l>${i + 1}`], { do: 'label', to: label }),
  ),
  one('label-0', 'Mark', 'no label', ['l>0'], { do: 'label', to: null }),
  one('pile', 'Mark', 'into the pile, or out of it', ['v'], { do: 'pile' }),
  one('pile-choose', 'Mark', 'into another pile …', ['shift+v'], { do: 'pileLine' }),
  one('album', 'Mark', 'into the album, or out of it', ['alt+v'], { do: 'album' }),
  one('album-choose', 'Mark', 'into another album …', ['alt+shift+v'], { do: 'albumLine' }),
  one('arrange', 'Mark', 'other names, or another folder …', ['f2'], { do: 'arranging' }),
  one('note', 'Mark', 'a note to whoever edits it …', ['shift+n'], { do: 'noteLine' }),
  one('words', 'Mark', 'keywords and caption …', ['shift+e'], { do: 'wordsLine' }),
  one('step-on', 'Mark', 'step on after marking, on or off', ['a'], { do: 'stepOn' }),

  one('take-split', 'Takes', 'a new take begins here', ['shift+s'], { do: 'take', deed: 'split' }),
  one('take-join', 'Takes', 'join with the take before', ['shift+a'], { do: 'take', deed: 'join' }),
  one('take-out', 'Takes', 'out of its take, alone', ['shift+x'], { do: 'take', deed: 'out' }),
  one('take-together', 'Takes', 'what is selected belongs together', ['shift+b'], {
    ...{ do: 'take', deed: 'together' },
  }),
  one('take-lead', 'Takes', 'stand for its take · for its album', ['shift+l'], { do: 'take', deed: 'lead' }),
  one('shoot-lead', 'Takes', 'stand for its shoot, or no longer', ['alt+l'], { do: 'shootLead' }),
  one('folder-lead', 'Takes', 'stand for its folder, or no longer', ['alt+shift+l'], { do: 'folderLead' }),
  one('take-machine', 'Takes', 'correct nothing in this take any more', ['shift+0'], {
    ...{ do: 'take', deed: 'machine' },
  }),
  ...TAKE_KINDS.map((kind, i) =>
    one(`take-kind-${kind}`, 'Takes', `call the take ${TAKE_KIND_WORDS[kind]}`, [`shift+k>${i + 1}`], {
      ...{ do: 'takeKind', kind },
    }),
  ),
  one('take-doubts', 'Takes', 'go through what is doubtful', ['shift+d'], { do: 'doubts' }),
  one('clock', 'Takes', 'correct the clock that seems to be off', ['shift+m'], { do: 'clock' }),
  one('clock-look', 'Takes', 'what both bodies saw, by which a clock seems to be off', ['shift+o'], {
    ...{ do: 'clockLook' },
  }),
  one('fold', 'Takes', 'sheet: one frame for each take, or all', ['shift+q'], { do: 'fold' }),

  one('sheet', 'Look', 'contact sheet', ['q'], { do: 'view', to: 'sheet' }),
  one('single', 'Look', 'single', ['w', 'enter'], { do: 'view', to: 'single' }),
  one('side', 'Look', 'side by side', ['e'], { do: 'view', to: 'side' }),
  one('run', 'Look', 'run-through, by itself', ['r'], { do: 'view', to: 'run' }),
  one('pause', 'Look', 'run-through: stop and go on', ['p'], { do: 'pause' }),
  one('turn', 'Look', 'run-through: the other way', ['shift+r'], { do: 'turn' }),
  one('zoom', 'Look', '100 %, and back', ['z'], { do: 'zoom' }),
  ...both(['larger', 'smaller'], 'Look', (by) => ({ do: 'size', by }), ['larger', 'smaller'], [['+'], ['-']]),
  one('link', 'Look', 'side by side: zoom and drag together or apart', ['shift+z'], { do: 'link' }),
  one('drop', 'Look', 'side by side: without this one · album: out of it', ['delete', 'x'], { do: 'drop' }),
  one('alone', 'Look', 'the picture alone', ['i'], { do: 'alone' }),
  one('full-screen', 'Look', 'full screen', ['shift+i'], { do: 'fullScreen' }),
  one('facts', 'Look', 'facts: none, short, full', ['c'], { do: 'facts' }),
  one('camera', 'Look', 'everything the camera wrote', ['shift+j'], { do: 'camera' }),
  one('before', 'Look', 'an edited or finished frame: before and after', ['alt+e'], { do: 'before' }),
  one('version', 'Look', 'an edited frame: the version before this one', ['alt+shift+e'], { do: 'version' }),
  one('where', 'Look', 'where its files lie, and open them', ['alt+w'], { do: 'where' }),
  one('surround', 'Look', 'surround: black, dark, 18 % grey, white', ['b'], { do: 'surround' }),
  one('histogram', 'Look', 'tones of the picture, on or off', ['shift+h'], { do: 'histogram' }),
  one('clipping', 'Look', 'show what is blown or lost in the dark', ['shift+c'], { do: 'clipping' }),
  one('focus', 'Look', 'show what is sharp', ['shift+f'], { do: 'focus' }),
  one('together', 'Look', 'all windows at the same frame, on or off', ['shift+w'], { do: 'together' }),
  one('column', 'Look', 'the take beside the picture, on or off', ['j'], { do: 'column' }),

  one('finish', 'Finish', 'exposure, colours, crop: open or close', ['alt+g'], { do: 'finish' }),
  one('finish-crop', 'Finish', 'draw the crop', ['alt+c'], { do: 'finishCrop' }),
  one('finish-last', 'Finish', 'as the last one that was finished', ['alt+p'], { do: 'finishLast' }),
  one('finish-match', 'Finish', 'the take’s other frames as its lead looks', ['alt+k'], {
    do: 'finishMatch',
  }),
  one('finish-none', 'Finish', 'reset: as the camera took it', ['alt+x'], { do: 'finishNone' }),
  ...[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) =>
    one(`finish-${n}`, 'Finish', `finish ${n}`, [`alt+n>${n}`], { do: 'finishNamed', number: n }),
  ),

  ...[1, 2, 3, 4].map((n) =>
    one(`layout-${n}`, 'Look', `layout ${n}`, [`shift+${n}`], { do: 'layout', number: n }),
  ),

  one('drawer', 'Find', 'open or close the drawer', ['h'], { do: 'drawer' }),
  one('filter', 'Find', 'filter', ['/'], { do: 'filter' }),
  one('only-undecided', 'Find', 'only undecided, or all', ['o'], { do: 'only', what: 'undecided' }),
  one('only-keepers', 'Find', 'only keepers, or all', ['k'], { do: 'only', what: 'keepers' }),
  one('only-pile', 'Find', 'only the pile, or all', ['t'], { do: 'onlyPile' }),
  one('all-of-pile', 'Find', 'the pile over all shoots', ['shift+t'], { do: 'allOfPile' }),
  one('show-all', 'Find', 'show all: clear the filter', ['backspace'], { do: 'showAll' }),
  one('find', 'Find', 'find in the whole archive', ['ctrl+f'], { do: 'find' }),
  one('similar', 'Find', 'what looks like it, in the whole archive', ['alt+a'], { do: 'similar' }),
  one('near-time', 'Find', 'what was taken within an hour of it', ['alt+h'], { do: 'nearTime' }),
  one(
    'fold-heading',
    'Find',
    'found frames: fold away what stands under this heading, or show it',
    ['alt+f'],
    {
      ...{ do: 'foldHeading' },
    },
  ),
  one('in-shoot', 'Find', 'show it in its shoot', ['shift+p'], { do: 'inShoot' }),
  ...both(
    ['arrange-later', 'arrange-earlier'],
    'Find',
    (by) => ({ do: 'arrange', by }),
    ['album: one place later', 'album: one place earlier'],
    [['.'], [',']],
  ),
  one('bookmarks', 'Find', 'bookmarks: go to one, or keep this place', ['alt+m'], { do: 'bookmarks' }),
  one('keys', 'Find', 'all keys', ['?'], { do: 'keys' }),

  one('undo', 'Undo', 'undo', ['ctrl+z'], { do: 'undo' }),
  one('redo', 'Undo', 'redo', ['ctrl+shift+z'], { do: 'redo' }),
  one('history', 'Undo', 'history: every step, whoever made it', ['alt+z'], { do: 'history', of: 'shoot' }),
  one('frame-history', 'Undo', 'history of this frame', ['alt+shift+z'], { do: 'history', of: 'frame' }),
];

/** What a held key goes on doing: it moves, it never marks. */
const REPEATED: readonly CullCommand['do'][] = ['step', 'row', 'page', 'extend', 'walk', 'size', 'arrange'];
export const repeats = (command: CullCommand): boolean => REPEATED.includes(command.do);
