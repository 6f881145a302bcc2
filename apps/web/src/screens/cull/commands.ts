import {
  deedOf,
  MOST_BESIDE,
  pileKind,
  pilesOf,
  shownName,
  standingOf,
  type Deed,
  type MarkField,
  type MarkKind,
  type MarkValue,
} from '@arkiv/core';
import { albumChanges, albumWords, type AlbumChoice } from '../../data/albums';
import { many } from '../../data/format';
import { nearTimeLine } from '../../data/nearTime';
import type { Step } from '../../data/shootStore';
import { standForFolder, standForShoot } from '../../data/shootLeads';
import { openBookmarks } from '../../parts/bookmarks';
import { focusFindBox } from '../../parts/findBox';
import type { CullCommand } from '../../keys/actions';
import { NO_FILTER, type PileChoice } from './cullFilter';
import { deedWords, markWords, stepWords } from './cullWords';
import { targetsOf, type Seen } from './seen';
import { cropCommand, finishCommand } from './finish/finishCommands';
import { another, pageBeside, paneOf, panesAt, sideBySide, takeBeside } from './sideCommands';
import { showVersion } from './versions';
import { answerDoubt, beginDoubts, correctTake, lookAtClock } from './takes/takeCommands';
import { wordChanges, type WordsWish } from '../../data/words';

/** Frames that a screenful is in the single view. */
const PAGE = 10;
type Changes = { id: string; field: MarkKind; to: MarkValue }[];

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

/** Keywords and caption of what is marked, as one step of the history. Nothing steps on. */
export function writeWords(wish: WordsWish, seen: Seen): void {
  const targets = targetsOf(seen);
  if (seen.current === null) return;
  const operations = seen.store.markEach(wordChanges(targets, wish), {
    ...{ current: seen.current, selection: targets.length > 1 ? targets : [] },
  });
  const frames = new Set(operations.map(({ subject }) => subject)).size;
  seen.notices.say(frames === 0 ? 'It is said already' : `Said of ${many(frames, 'frame')}`);
  seen.dispatch({ type: 'marked', held: targets });
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

/** Puts what is marked into an album; where all of it is in there already, takes it out. Nothing steps on. */
export function intoAlbum({ id: album, name }: AlbumChoice, seen: Seen, out = true): void {
  const { store, shoot, dispatch, current, notices } = seen;
  const targets = targetsOf(seen);
  const frames = targets.flatMap((id) => shoot.byId.get(id) ?? []);
  if (frames.length === 0) return;
  const { changes, into } = albumChanges(album, frames, Date.now(), out);
  const operations = store.markEach(changes, {
    ...{ current: current!, selection: targets.length > 1 ? targets : [] },
  });
  notices.say(albumWords(operations.length, into, name));
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
  if (state.finishing === 'crop' && cropCommand(command, seen)) return;
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
    case 'clockLook':
      return lookAtClock(seen);
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
    case 'follow':
      return dispatch({ type: 'toggle', what: 'follow' });
    case 'find':
      return focusFindBox();
    case 'similar':
      return current === null ? undefined : seen.find({ heading: 'none', like: current });
    case 'nearTime': {
      const time = current === null ? null : (seen.shoot.byId.get(current)?.time ?? null);
      if (time === null) return notices.say('Its camera wrote no time');
      return seen.find({ line: nearTimeLine(time) });
    }
    case 'foldHeading':
      return notices.say('Headings are folded in Find');
    case 'inShoot':
      return seen.found ? seen.goTo('shoot') : notices.say('It is in its shoot here');
    case 'passes':
      if (seen.found) return notices.say('A pass over these begins in Find');
      return seen.pass ? seen.pass.stop() : dispatch({ type: 'toggle', what: 'passes' });
    case 'pile':
      return seen.pile ? intoPile(seen.pile, seen) : dispatch({ type: 'toggle', what: 'pileLine' });
    case 'shootLead':
      return void standForShoot(
        targetsOf(seen).flatMap((id) => seen.shoot.byId.get(id) ?? []),
        seen.shootId,
      ).then(notices.say);
    case 'folderLead': {
      const frame = current === null ? undefined : seen.shoot.byId.get(current);
      if (!frame || seen.found) return notices.say('In its shoot a frame stands for its folder');
      return void standForFolder(frame, seen.shoot.frames, seen.shootId).then(notices.say, (error: Error) =>
        notices.say(error.message),
      );
    }
    case 'album':
      return seen.album ? intoAlbum(seen.album, seen) : dispatch({ type: 'toggle', what: 'albumLine' });
    case 'arrange':
      return notices.say('Frames are arranged in their album');
    case 'bookmarks':
      return openBookmarks();
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
    case 'albumLine':
    case 'arranging':
    case 'where':
    case 'noteLine':
    case 'wordsLine':
    case 'camera':
    case 'keys':
      return dispatch({ type: 'toggle', what: command.do });
    case 'finish':
    case 'finishCrop':
    case 'finishLast':
    case 'finishMatch':
    case 'finishNone':
    case 'finishNamed':
      return finishCommand(command, current === null ? null : (takes.with(current)?.lead ?? null), seen);
    case 'before':
    case 'version':
      return showVersion(command.do, seen);
    case 'clipping':
    case 'focus':
      return dispatch({ type: 'over', over: command.do });
    case 'fullScreen':
      return void (document.fullscreenElement
        ? document.exitFullscreen()
        : document.documentElement.requestFullscreen?.());
    case 'handoff':
      if (seen.found) return notices.say('These are of several shoots: each goes to hand-off from its own');
      return seen.goTo(command.do);
    case 'mail': {
      const targets = targetsOf(seen);
      if (seen.found) return notices.say('These are of several shoots: each is sent from its own');
      if (targets.length > MOST_BESIDE)
        return notices.say(`${MOST_BESIDE} pictures at most go beside a message; more are for a gallery`);
      return targets.length > 0 ? seen.mail(targets) : undefined;
    }
    case 'nextShoot':
      return seen.goTo(command.do);
    case 'history':
      return seen.goTo(command.of === 'shoot' ? 'history' : 'frameHistory');
    case 'filter':
      dispatch({ type: 'openDrawer' });
      // Once the drawer is there.
      return void requestAnimationFrame(() => document.getElementById('filter-line')?.focus());
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
        !state.albumLine &&
        !state.noteLine &&
        !state.wordsLine &&
        state.finishing === null &&
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
