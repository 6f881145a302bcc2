import { joinedKeywords, keywordsIn } from '@arkiv/core';

const KEY = 'arkiv.keywords.sets';
/** Sets that are remembered in this browser: those of a day’s work. */
const MOST = 10;

/** The keyword sets that were typed last, the newest first, each as it is typed. */
export function lastSets(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string').slice(0, MOST) : [];
  } catch {
    return [];
  }
}

/** Remembers what was typed; a set that is there already comes to the front. */
export function keepSet(typed: string): void {
  const set = keywordsIn(joinedKeywords(typed.split(/[,;\n]/))).join(', ');
  if (set === '') return;
  const sets = [set, ...lastSets().filter((one) => one !== set)].slice(0, MOST);
  localStorage.setItem(KEY, JSON.stringify(sets));
}
