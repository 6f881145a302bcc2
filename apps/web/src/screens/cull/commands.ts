import {
  deedOf,
  doubtsOf,
  pileKind,
  pilesOf,
  shownName,
  standingOf,
  type Deed,
  type KeeperRules,
  type MarkField,
  type MarkKind,
  type MarkValue,
} from '@arkiv/core';
import type { Dispatch } from 'react';
import { many } from '../../data/format';
import type { NextPart } from '../../data/passParts';
import type { ShootState, ShootStore, Step } from '../../data/shootStore';
import type { CullCommand } from '../../keys/actions';
import { NO_FILTER, type PileChoice } from './cullFilter';
import { type CullAction, type CullState, type Layout } from './cullState';
import { deedWords, markWords, stepWords } from './cullWords';
import type { Looking } from './looking';
import type { Shown } from './shown';
import { corrected, said, type TakeDeed } from './takes/corrections';
import type { Takes } from './takes/takes';
import type { ClockOffer } from './takes/useClocks';

/** What Cull says of what was done. */
export interface Notices {
  notice: string;
  /** said of a mark on several frames, with the way back, until something else is marked */
  offer: string;
  say: (words: string) => void;
  offerBack: (words: string) => void;
  endOffer: () => void;
}

/** What a command works on. */
export interface Seen {
  store: ShootStore;
  shoot: ShootState;
  rules: KeeperRules;
  state: CullState;
  dispatch: Dispatch<CullAction>;
  shown: Shown;
  takes: Takes;
  current: string | null;
  at: number;
  selected: readonly string[];
  notices: Notices;
  looking: Looking;
  layout: { current: { across: number; rows: number } };
  goTo: (where: 'handoff' | 'nextShoot' | 'pile') => void;
  /** frames that were seen, which a pass counts */
  see: (ids: readonly string[]) => void;
  /** in a pass: whether a frame of it was seen, how it is stopped, where it goes on; null: there is none */
  pass: { isSeen: (id: string) => boolean; stop: () => void; next: () => NextPart | null } | null;
  /** the clock that seems to be off; null: none */
  clock: ClockOffer | null;
  /** the first key of an action, as it is read */
  keyOf: (action: string) => string;
  /** the pile that frames go into; null: none is chosen yet */
  pile: PileChoice | null;
  /** as the studio keeps them */
  layouts: readonly { name: string; value: Partial<Layout> }[];
}

/** Frames that a screenful is in the single view. */
const PAGE = 10;
/** Frames side by side at most: with more, each is smaller than a look at it is worth. */
export const MOST_PANES = 6;

type Changes = { id: string; field: MarkKind; to: MarkValue }[];

/** What a mark goes to: what is selected, or the current frame. */
const targetsOf = ({ selected, current }: Seen): readonly string[] =>
  selected.length > 0 ? selected : current === null ? [] : [current];

/** Marks, as one step of the history, and steps on where that is wanted after this kind of mark. */
function commit(
  changes: Changes,
  targets: readonly string[],
  kind: MarkField,
  words: string,
  seen: Seen,
): void {
  const { store, state, dispatch, shown, current, at, notices } = seen;
  if (current === null) return;
  const several = targets.length > 1;
  seen.see(targets);
  const operations = store.markEach(changes, { current, selection: several ? targets : [] });
  const frames = new Set(operations.map(({ subject }) => subject)).size;
  notices.offerBack(several ? `${many(frames, 'frame')} changed: ${words}.` : '');
  notices.say('');
  // Side by side the eye goes to and fro: nothing steps on there.
  const steps = state.stepOn && state.stepAfter.includes(kind);
  if (!steps || several || targets[0] !== current || state.view === 'side' || state.view === 'run')
    return dispatch({ type: 'marked', held: targets });
  // Seen from the list as it was before the mark: the next one, wherever this one went.
  const next = shown.id(at + 1);
  dispatch(next ? { type: 'go', id: next } : { type: 'marked', held: [current] });
  if (!next) notices.say('That was the last one shown');
}

function mark(field: MarkField, to: MarkValue, seen: Seen): void {
  const targets = targetsOf(seen);
  commit(
    targets.map((id) => ({ id, field, to })),
    targets,
    field,
    markWords(field, to),
    seen,
  );
}

/** Writes a note on what is marked; null takes it off. Nothing steps on. */
export function writeNote(note: string | null, seen: Seen): void {
  const targets = targetsOf(seen);
  if (seen.current === null) return;
  const operations = seen.store.markEach(
    targets.map((id) => ({ id, field: 'note', to: note })),
    { current: seen.current, selection: targets.length > 1 ? targets : [] },
  );
  if (operations.length > 0)
    seen.notices.say(`${note === null ? 'Note taken off' : 'Note on'} ${many(operations.length, 'frame')}`);
  seen.dispatch({ type: 'marked', held: targets });
}

/** Corrects takes, as one step of the history. Nothing steps on. */
export function correctTake(deed: TakeDeed, seen: Seen): void {
  const { store, shoot, dispatch, takes, current, notices } = seen;
  if (current === null) return;
  const targets = targetsOf(seen);
  const { changes, words } = corrected(deed, {
    takes,
    frames: shoot.frames,
    byId: shoot.byId,
    current,
    targets,
  });
  if (changes.length === 0) return notices.say(words);
  store.markEach(changes, { current, selection: targets.length > 1 ? targets : [] });
  notices.offerBack(`${words}.`);
  notices.say('');
  dispatch({ type: 'marked', held: targets });
}

/** Begins to go through what is doubtful among what is shown. */
function beginDoubts({ shown, takes, state, dispatch, notices }: Seen): void {
  const of = doubtsOf(takes.of, state.strict).filter(({ id, before }) => shown.has(id) && shown.has(before));
  if (of.length === 0) return notices.say('Nothing is doubtful where the slider stands now');
  dispatch({ type: 'doubts', of, at: 0 });
}

/** What a key means while one goes through doubts; false: what it means otherwise. */
function answerDoubt(
  command: CullCommand,
  { of, at }: NonNullable<CullState['doubts']>,
  seen: Seen,
): boolean {
  const { store, shoot, dispatch, notices } = seen;
  const go = (to: number) => {
    if (to >= of.length) notices.say('That was the last doubtful one');
    dispatch({ type: 'doubts', of, at: Math.max(0, to) });
  };
  if (command.do === 'step') {
    go(at + command.by);
    return true;
  }
  if (command.do !== 'take' || (command.deed !== 'split' && command.deed !== 'join')) return false;
  const { id } = of[at]!;
  store.markEach(said([id], { place: command.deed === 'split' ? 'cut' : 'join' }, shoot), {
    ...{ current: id, selection: [] },
  });
  go(at + 1);
  return true;
}

/** Puts what is marked into a pile; where all of it is in there already, takes it out. Nothing steps on. */
export function intoPile({ id: pileId, name }: PileChoice, seen: Seen, out = true): void {
  const { store, shoot, dispatch, current, notices } = seen;
  const targets = targetsOf(seen);
  const frames = targets.flatMap((id) => shoot.byId.get(id) ?? []);
  if (frames.length === 0) return;
  const to = !(out && frames.every((frame) => pilesOf(frame).includes(pileId)));
  const operations = store.markEach(
    frames.map(({ id }) => ({ id, field: pileKind(pileId), to })),
    { current: current!, selection: targets.length > 1 ? targets : [] },
  );
  notices.say(`${many(operations.length, 'frame')} ${to ? 'into' : 'out of'} “${name}”`);
  dispatch({ type: 'marked', held: targets });
}

/** What one frame needs to be decided so, by the studio's rules. */
const changesFor = (id: string, deed: Deed, { shoot, rules }: Seen): Changes => {
  const frame = shoot.byId.get(id);
  return frame ? deedOf(rules, deed, frame).map((change) => ({ id, ...change })) : [];
};

function decide(deed: Deed, seen: Seen): void {
  const targets = targetsOf(seen);
  commit(
    targets.flatMap((id) => changesFor(id, deed, seen)),
    targets,
    'verdict',
    deedWords[deed],
    seen,
  );
}

/** What stands to be decided against each other: what is side by side, what is selected, or the take. */
function rivals({ state, selected, takes, shown, current }: Seen): readonly string[] {
  if (state.view === 'side') return state.panes;
  if (selected.length > 1) return selected;
  return current === null ? [] : takes.idsWith(current).filter((id) => shown.has(id));
}

/** Keeps one of several and rejects the others, or rejects all; then on to the next take. */
function decideAmong(winner: string | null, seen: Seen): void {
  const { store, state, dispatch, shown, takes, current, at, selected, notices } = seen;
  if (current === null) return;
  const among = rivals(seen);
  const changes = among.flatMap((id) => changesFor(id, id === winner ? 'keep' : 'reject', seen));
  const ids = winner === null || among.includes(winner) ? among : [winner, ...among];
  seen.see(ids);
  store.markEach(changes, { current, selection: ids.length > 1 && state.view !== 'side' ? ids : [] });
  const rest = among.length - (winner === null ? 0 : 1);
  notices.offerBack(
    winner === null
      ? `Nothing kept: ${many(rest, 'frame')} rejected.`
      : rest > 0
        ? `Kept this one, rejected ${many(rest, 'other')}.`
        : '',
  );
  notices.say('');
  const next = selected.length > 1 ? null : takes.step(shown, at, 1);
  const id = next === null || next === at ? undefined : shown.id(next);
  if (state.view === 'side') {
    if (id === undefined || among.includes(id)) return notices.say('That was the last take shown');
    const panes = panesAt(shown.indexOf(id), seen);
    return dispatch({ type: 'side', panes, current: id });
  }
  if (state.stepOn && id !== undefined && state.view === 'single') return dispatch({ type: 'go', id });
  dispatch({ type: 'marked', held: ids });
}

/** What stands side by side around a frame: the page of its take that it is on, or it and the next one. */
function panesAt(at: number, { shown, takes }: Seen): string[] {
  const id = shown.id(at);
  if (id === undefined) return [];
  const pages = pagesOf(takes.idsWith(id).filter((its) => shown.has(its)));
  return pages.find((page) => page.includes(id)) ?? [id, ...(shown.id(at + 1) ? [shown.id(at + 1)!] : [])];
}

/** A take in pages of six; a last frame alone has the one before it beside it. None where there is nothing beside a frame. */
export function pagesOf(take: readonly string[]): string[][] {
  const pages: string[][] = [];
  if (take.length < 2) return pages;
  for (let at = 0; at < take.length; at += MOST_PANES)
    pages.push(take.slice(at === take.length - 1 ? at - 1 : at, at + MOST_PANES));
  return pages;
}

/** Side by side the next page of the take, and past its end the next take. */
function pageBeside(by: 1 | -1, seen: Seen): void {
  const { state, dispatch, shown, takes, current } = seen;
  if (current === null) return;
  const pages = pagesOf(takes.idsWith(current).filter((id) => shown.has(id)));
  const page = pages.findIndex((ids) => ids.includes(state.panes[0] ?? ''));
  const panes = page < 0 ? undefined : pages[page + by];
  if (panes) return dispatch({ type: 'side', panes, current: panes[0]! });
  takeBeside(by, seen);
}

/** Side by side the frames of the next take, or of the one before. */
function takeBeside(by: 1 | -1, seen: Seen): void {
  const { state, dispatch, shown, takes, at, notices } = seen;
  const begins = takes.step(shown, at, by);
  // Back from within a take leads to its own beginning first.
  const to =
    by === -1 && state.panes.includes(shown.id(begins) ?? '') ? takes.step(shown, begins, by) : begins;
  const panes = panesAt(to, seen);
  const id = shown.id(to);
  if (id === undefined || panes.length < 2 || state.panes.includes(id))
    return notices.say(by === 1 ? 'That was the last take shown' : 'That was the first take shown');
  dispatch({ type: 'side', panes, current: id });
}

function sideBySide(seen: Seen): void {
  const { dispatch, selected, shown, current, at, notices } = seen;
  if (current === null) return;
  const chosen =
    selected.length > 1 ? [...selected].sort((a, b) => shown.indexOf(a) - shown.indexOf(b)) : null;
  const panes = (chosen ?? panesAt(at, seen)).slice(0, MOST_PANES);
  if (panes.length < 2) return notices.say('There is nothing to stand beside this one');
  if (chosen && chosen.length > MOST_PANES)
    notices.say(`The first ${MOST_PANES} of ${many(chosen.length, 'frame')}`);
  dispatch({ type: 'side', panes, current: panes.includes(current) ? current : panes[0]! });
}

/** Another frame in the place of the current one: the next or the previous that does not stand there yet. */
function another(by: 1 | -1, { state, dispatch, shown, at, notices }: Seen): void {
  for (let i = at + by; ; i += by) {
    const id = shown.id(i);
    if (id === undefined)
      return notices.say(by === 1 ? 'That was the last one shown' : 'That was the first one shown');
    if (!state.panes.includes(id)) return dispatch({ type: 'go', id });
  }
}

/** The next frame that is still left by the studio's rules, in a pass the next that was not seen; past the end it begins anew. */
function nextUndecided(by: 1 | -1, seen: Seen): void {
  const { dispatch, shoot, rules, shown, takes, at, notices, pass } = seen;
  for (let step = 1; step <= shown.length; step++) {
    const i = (at + by * step + shown.length * 2) % shown.length;
    const frame = shoot.frames[shown.places[i]!]!;
    const left = pass ? !pass.isSeen(frame.id) : standingOf(rules, frame) === 'left';
    if (left && i !== at) return dispatch({ type: 'go', id: frame.id });
  }
  if (pass?.next()) return sayNext(seen);
  if (!pass) return notices.say('Nothing else is undecided among what is shown');
  const bare = takes.withoutKeeper(shown, (id) => standingOf(rules, shoot.byId.get(id)!) === 'keeper');
  notices.say(`All of this pass was seen${bare > 0 ? ` · of ${many(bare, 'take')} nothing is kept` : ''}`);
}

/** A pass over several shoots goes on in another one. */
function sayNext({ pass, keyOf, notices }: Seen): void {
  const next = pass?.next();
  if (!next) return;
  const left = many(next.left, 'frame');
  notices.say(`The pass goes on in “${shownName(next.title)}”, ${left} not seen: ${keyOf('next-shoot')}`);
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

function size(by: 1 | -1, { state, dispatch, looking, current }: Seen): void {
  if (state.view === 'sheet') return dispatch({ type: 'size', by });
  if (state.view === 'run') return dispatch({ type: 'pace', by: by === 1 ? -1 : 1 });
  if (current !== null) looking.step(paneOf(state, current), by === 1);
}

/** The place on screen that shows a frame. */
export const paneOf = ({ view }: Pick<CullState, 'view'>, id: string): string =>
  view === 'side' ? `side ${id}` : 'single';

export function runCommand(command: CullCommand, seen: Seen): void {
  const { store, state, dispatch, shown, takes, current, at, notices, layout, looking } = seen;
  const sheet = state.view === 'sheet';
  const goTo = (index: number) => {
    const id = shown.id(Math.min(shown.length - 1, Math.max(0, index)));
    if (id) dispatch({ type: 'go', id });
  };
  const rowStep = (by: 1 | -1) => (sheet ? at + by * layout.current.across : takes.step(shown, at, by));
  /** the frame that a step leads to; past either end there is none */
  const stepped = ({ by, row }: { by: 1 | -1; row?: boolean }) => shown.id(row ? rowStep(by) : at + by);
  if (command.do !== 'undo' && command.do !== 'redo') notices.say('');
  if (state.doubts && state.view === 'side' && answerDoubt(command, state.doubts, seen)) return;
  switch (command.do) {
    case 'step': {
      if (state.view !== 'side') {
        if (command.by === 1 && at === shown.length - 1) sayNext(seen);
        return goTo(at + command.by);
      }
      const beside = state.panes[state.panes.indexOf(current ?? '') + command.by];
      return beside === undefined ? undefined : dispatch({ type: 'go', id: beside });
    }
    case 'row':
      return state.view === 'side' ? takeBeside(command.by, seen) : goTo(rowStep(command.by));
    case 'page':
      if (state.view === 'side') return pageBeside(command.by, seen);
      return goTo(at + command.by * (sheet ? layout.current.across * layout.current.rows : PAGE));
    case 'end':
      return goTo(command.to === 'first' ? 0 : shown.length - 1);
    case 'undecided':
      return nextUndecided(command.by, seen);
    case 'extend': {
      const id = stepped(command);
      return id ? dispatch({ type: 'pick', id, how: 'range', visible: shown }) : undefined;
    }
    case 'walk': {
      if (state.view === 'side') return another(command.by, seen);
      const id = stepped(command);
      return id ? dispatch({ type: 'walk', id }) : undefined;
    }
    case 'selectToggle':
      return current ? dispatch({ type: 'pick', id: current, how: 'toggle', visible: shown }) : undefined;
    case 'verdict':
      return decide(({ keep: 'keep', reject: 'reject', undecided: 'undecide' } as const)[command.to], seen);
    case 'winner':
      return decideAmong(current, seen);
    case 'noneKept':
      return decideAmong(null, seen);
    case 'stars':
    case 'label':
      return mark(command.do, command.to, seen);
    case 'view':
      return command.to === 'side' ? sideBySide(seen) : dispatch({ type: 'view', view: command.to });
    case 'take':
      return correctTake({ deed: command.deed }, seen);
    case 'takeTo':
      return correctTake({ deed: 'to', id: command.id }, seen);
    case 'takeKind':
      return correctTake({ deed: 'kind', kind: command.kind }, seen);
    case 'doubts':
      return beginDoubts(seen);
    case 'clock':
      return seen.clock?.accept ? seen.clock.accept() : notices.say('No clock seems to be off');
    case 'clockLook': {
      const pair = seen.clock?.look?.();
      if (!pair) return notices.say('No clock seems to be off');
      return dispatch({ type: 'side', panes: pair, current: pair[1] });
    }
    case 'fold':
      if (!state.folded) notices.say('One frame for each take: marks go to that frame alone');
      return dispatch({ type: 'fold', current });
    case 'drop':
      return dispatch({ type: 'drop' });
    case 'zoom':
      if (sheet) return dispatch({ type: 'view', view: 'single' });
      return current === null ? undefined : looking.toggle(paneOf(state, current));
    case 'link': {
      if (current === null) return;
      const linked = !looking.zoom.linked();
      looking.zoom.link(linked, paneOf(state, current));
      return notices.say(linked ? 'Zoom and drag together' : 'Zoom and drag each alone');
    }
    case 'pause':
      return dispatch({ type: 'run', change: { paused: !state.run.paused } });
    case 'turn':
      return dispatch({ type: 'run', change: { back: !state.run.back } });
    case 'only': {
      const standing = command.what === 'keepers' ? 'keeper' : 'left';
      const now = state.filter.standing === standing ? null : standing;
      return dispatch({ type: 'filter', filter: { ...state.filter, standing: now } });
    }
    case 'together':
      notices.say(
        state.together ? 'This window goes its own way' : 'All windows with this on stand at the same frame',
      );
      return dispatch({ type: 'toggle', what: 'together' });
    case 'passes':
      return seen.pass ? seen.pass.stop() : dispatch({ type: 'toggle', what: 'passes' });
    case 'pile':
      return seen.pile ? intoPile(seen.pile, seen) : dispatch({ type: 'toggle', what: 'pileLine' });
    case 'onlyPile': {
      if (!seen.pile) return notices.say(`No pile is chosen yet: ${seen.keyOf('pile-choose')} chooses one`);
      const piles = (state.filter.piles ?? []).some(({ id }) => id === seen.pile!.id) ? [] : [seen.pile];
      return dispatch({ type: 'filter', filter: { ...state.filter, piles } });
    }
    case 'allOfPile':
      return seen.pile
        ? seen.goTo('pile')
        : notices.say(`No pile is chosen yet: ${seen.keyOf('pile-choose')} chooses one`);
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
    case 'alone':
    case 'histogram':
    case 'jump':
    case 'pileLine':
    case 'noteLine':
    case 'camera':
    case 'keys':
      return dispatch({ type: 'toggle', what: command.do });
    case 'clipping':
    case 'focus':
      return dispatch({ type: 'over', over: command.do });
    case 'fullScreen':
      return void (document.fullscreenElement
        ? document.exitFullscreen()
        : document.documentElement.requestFullscreen?.());
    case 'handoff':
    case 'nextShoot':
      return seen.goTo(command.do);
    case 'filter':
      return dispatch({ type: 'openDrawer' });
    case 'showAll':
      return dispatch({ type: 'filter', filter: NO_FILTER });
    case 'selectAll':
      return dispatch({ type: 'selectAll', visible: shown });
    case 'selectNone':
      // The line of the last mark stands over the pictures, below what is open.
      if (
        notices.offer &&
        !state.doubts &&
        !state.jump &&
        !state.pileLine &&
        !state.noteLine &&
        !state.alone &&
        !state.drawer
      )
        return notices.endOffer();
      return dispatch({ type: 'leave' });
    case 'size':
      return size(command.by, seen);
    case 'layout': {
      const kept = seen.layouts[command.number - 1];
      if (!kept) return notices.say(`No layout ${command.number} is kept: the drawer keeps this one`);
      dispatch({ type: 'layout', layout: kept.value });
      return notices.say(`Layout: ${kept.name}`);
    }
  }
}
