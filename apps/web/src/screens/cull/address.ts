import { NO_FILTER, type CullFilter } from './cullFilter';
import type { Addressed, CullState } from './cullState';

/** The query of an address, with its question mark. What goes by or stands side by side is come to as one frame. */
export function addressOf(
  { view, filter }: Pick<CullState, 'view' | 'filter'>,
  current: string | null,
): string {
  const query = new URLSearchParams({ view: view === 'sheet' ? 'sheet' : 'single' });
  if (current !== null) query.set('frame', current);
  const text = JSON.stringify(filter);
  if (text !== JSON.stringify(NO_FILTER)) query.set('filter', text);
  return `?${query}`;
}

/** What an address asks for; null where it names nothing. One that names a frame alone shows it, whatever a filter hid. */
export function addressed(search: string): Addressed | null {
  const query = new URLSearchParams(search);
  const current = query.get('frame');
  const view = query.get('view');
  if (view === null && current === null) return null;
  const pass = query.get('pass');
  return {
    ...{ view: view === 'sheet' ? 'sheet' : 'single', current, filter: filterOf(query.get('filter')) },
    ...(pass !== null && { pass }),
  };
}

/** Whether going from one address to the other is a step that Back takes back: not from frame to frame. */
export function isStep(from: string, to: string): boolean {
  const [before, after] = [new URLSearchParams(from), new URLSearchParams(to)];
  return before.has('view') && ['view', 'filter'].some((key) => before.get(key) !== after.get(key));
}

/** A filter that somebody has written by hand, or a version to come, may be none. */
function filterOf(text: string | null): CullFilter {
  try {
    const read = JSON.parse(text ?? '{}') as Partial<CullFilter> | null;
    const filter = { ...NO_FILTER, ...read };
    const whole = Array.isArray(filter.verdicts) && typeof filter.stars?.kind === 'string';
    return whole ? filter : NO_FILTER;
  } catch {
    return NO_FILTER;
  }
}
