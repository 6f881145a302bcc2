import { EMPTY_HISTORY, type History } from '@arkiv/core';

/** Where marks were made: the frame, and what was selected. */
export interface Place {
  current: string | null;
  selection: readonly string[];
}

interface Kept {
  history: History;
  /** by group */
  places: Readonly<Record<string, Place>>;
}

export interface KeptHistory {
  read: () => Kept;
}

/**
 * Operations that are carried over a reload, the newest groups of them: about a megabyte as text, of the five that a
 * browser gives a window.
 */
const CARRIED = 5000;

const historyKey = (shootId: string) => `arkiv.history.${shootId}`;

/** Keeps a shoot's history in its window, so that a reload does not end what can be taken back. */
export function historyStore(shootId: string, now: () => Kept): KeptHistory {
  window.addEventListener('pagehide', () => {
    try {
      sessionStorage.setItem(historyKey(shootId), JSON.stringify(carried(now())));
    } catch {
      // No room: the marks themselves are with the server; only the way back begins anew.
      sessionStorage.removeItem(historyKey(shootId));
    }
  });
  return {
    read: () => {
      try {
        const text = sessionStorage.getItem(historyKey(shootId));
        return text === null ? { history: EMPTY_HISTORY, places: {} } : (JSON.parse(text) as Kept);
      } catch {
        return { history: EMPTY_HISTORY, places: {} };
      }
    },
  };
}

/** The newest groups, as many as fit, with their places. */
export function carried({ history, places }: Kept): Kept {
  let room = CARRIED;
  const newest = (groups: History['done']) => {
    const kept: (typeof groups)[number][] = [];
    for (const group of [...groups].reverse()) {
      room -= group.length;
      if (room < 0) break;
      kept.unshift(group);
    }
    return kept;
  };
  const undone = newest(history.undone);
  const done = newest(history.done);
  const groups = new Set([...done, ...undone].map(([first]) => first?.group));
  return {
    history: { done, undone },
    places: Object.fromEntries(Object.entries(places).filter(([group]) => groups.has(group))),
  };
}
