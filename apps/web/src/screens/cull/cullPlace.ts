import { START, type CullState } from './cullState';

const placeKey = (shootId: string) => `arkiv.cull.${shootId}`;

/**
 * Where the last look at this shoot ended, so that stopping costs nothing; or at the frame that the address names. This
 * window's own place first: another window may stand elsewhere in the same shoot.
 */
export function keptPlace(shootId: string): CullState {
  try {
    const text = sessionStorage.getItem(placeKey(shootId)) ?? localStorage.getItem(placeKey(shootId));
    const kept = JSON.parse(text ?? '{}') as Partial<CullState>;
    const { current, stepOn, surround, facts, cell, column, filter, run, order } = { ...START, ...kept };
    // What stood side by side, and what went by, is come to anew.
    const view = kept.view === 'sheet' ? 'sheet' : 'single';
    const asked = new URLSearchParams(location.search).get('frame');
    if (asked)
      return { ...START, view: 'single', current: asked, stepOn, surround, facts, cell, column, run, order };
    return { ...START, view, current, stepOn, surround, facts, cell, column, filter, run, order };
  } catch {
    return START;
  }
}

export function keepPlace(shootId: string, place: object): void {
  const text = JSON.stringify(place);
  sessionStorage.setItem(placeKey(shootId), text);
  localStorage.setItem(placeKey(shootId), text);
}
