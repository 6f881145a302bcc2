import { many } from '../../data/format';
import type { CullState } from './cullState';
import type { Seen } from './seen';

/** Frames side by side at most: with more, each is smaller than a look at it is worth. */
export const MOST_PANES = 6;

/** The place on screen that shows a frame. */
export const paneOf = ({ view }: Pick<CullState, 'view'>, id: string): string =>
  view === 'side' ? `side ${id}` : 'single';

/** What stands side by side around a frame: the page of its take that it is on, or it and the next one. */
export function panesAt(at: number, { shown, takes }: Seen): string[] {
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
export function pageBeside(by: 1 | -1, seen: Seen): void {
  const { state, dispatch, shown, takes, current } = seen;
  if (current === null) return;
  const pages = pagesOf(takes.idsWith(current).filter((id) => shown.has(id)));
  const page = pages.findIndex((ids) => ids.includes(state.panes[0] ?? ''));
  const panes = page < 0 ? undefined : pages[page + by];
  if (panes) return dispatch({ type: 'side', panes, current: panes[0]! });
  takeBeside(by, seen);
}

/** Side by side the frames of the next take, or of the one before. */
export function takeBeside(by: 1 | -1, seen: Seen): void {
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

/** What is selected, or the take, side by side. */
export function sideBySide(seen: Seen): void {
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
export function another(by: 1 | -1, { state, dispatch, shown, at, notices }: Seen): void {
  for (let i = at + by; ; i += by) {
    const id = shown.id(i);
    if (id === undefined)
      return notices.say(by === 1 ? 'That was the last one shown' : 'That was the first one shown');
    if (!state.panes.includes(id)) return dispatch({ type: 'go', id });
  }
}
