import { doubtsOf } from '@arkiv/core';
import type { CullCommand } from '../../../keys/actions';
import type { CullState } from '../cullState';
import { targetsOf, type Seen } from '../seen';
import { corrected, said, type TakeDeed } from './corrections';

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
export function beginDoubts({ shown, takes, state, dispatch, notices }: Seen): void {
  const of = doubtsOf(takes.of, state.strict).filter(({ id, before }) => shown.has(id) && shown.has(before));
  if (of.length === 0) return notices.say('Nothing is doubtful where the slider stands now');
  dispatch({ type: 'doubts', of, at: 0 });
}

/** What a key means while one goes through doubts; false: what it means otherwise. */
export function answerDoubt(
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

/** Two frames of a moment that both bodies saw, side by side. */
export function lookAtClock({ clock, dispatch, notices }: Seen): void {
  const pair = clock?.look?.();
  if (!pair) return notices.say('No clock seems to be off');
  dispatch({ type: 'side', panes: pair, current: pair[1] });
}
