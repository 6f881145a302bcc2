import { addressed } from './address';
import type { CullFilter } from './cullFilter';
import { questionOf } from '../../data/findQuestion';
import { foundText, isFound } from '../../data/frameSource';
import { START, type CullState } from './cullState';

/** The filter that goes along from shoot to shoot, where that is wanted. */
const EVERYWHERE = 'arkiv.cull.filter';

export function filterEverywhere(): CullFilter | null {
  try {
    return JSON.parse(localStorage.getItem(EVERYWHERE) ?? 'null') as CullFilter | null;
  } catch {
    return null;
  }
}

/** Null: each shoot has its own again. Days and hours are one shoot's. */
export function keepEverywhere(filter: CullFilter | null): void {
  if (filter === null) localStorage.removeItem(EVERYWHERE);
  else localStorage.setItem(EVERYWHERE, JSON.stringify({ ...filter, times: [] }));
}

const placeKey = (shootId: string) => `arkiv.cull.${shootId}`;

/**
 * Where the last look at this shoot ended, so that stopping costs nothing; or at what the address names. This
 * window's own place first: another window may stand elsewhere in the same shoot.
 */
export function keptPlace(shootId: string): CullState {
  try {
    const text = sessionStorage.getItem(placeKey(shootId)) ?? localStorage.getItem(placeKey(shootId));
    const kept: Partial<CullState> = {
      // An album is gone through as it is arranged.
      ...(isAlbum(shootId) ? { order: { by: 'found', reverse: false, heading: 'none' } as const } : {}),
      ...(JSON.parse(text ?? '{}') as Partial<CullState>),
    };
    const asked = reloaded() ? null : addressed(location.search);
    if (asked) return { ...START, ...kept, ...asked, current: asked.current ?? kept.current ?? null };
    // What stood side by side, and what went by, is come to anew.
    const view = kept.view === 'sheet' ? 'sheet' : 'single';
    return { ...START, ...kept, view, filter: filterEverywhere() ?? kept.filter ?? START.filter };
  } catch {
    return START;
  }
}

const isAlbum = (id: string): boolean => {
  if (!isFound(id)) return false;
  const { album, heading } = questionOf(foundText(id));
  return album !== undefined && heading === 'album';
};

let first = true;

/** Whether this page was loaded anew where one stood: the address lags behind the last keys, the place does not. */
function reloaded(): boolean {
  const [entry] = performance.getEntriesByType?.('navigation') ?? [];
  return first && (entry as PerformanceNavigationTiming)?.type === 'reload' && entry!.name === location.href;
}

/** `text`: what {@link keptPlace} reads, as JSON. */
export function keepPlace(shootId: string, text: string): void {
  first = false;
  sessionStorage.setItem(placeKey(shootId), text);
  localStorage.setItem(placeKey(shootId), text);
}
