/** How far a going-through has come. */
export interface PassProgress {
  /** frames that it is about */
  total: number;
  seen: number;
  /** milliseconds in which somebody was at it */
  activeMillis: number;
}

/** A minute without a key is a pause: with a 20-minute coffee counted in, no pace would say anything. */
const PAUSE = 60_000;
/** Frames after which a pace is said: of fewer, one long look makes it. */
const ENOUGH = 10;

/** The time at work after one more sign of it. `last`: the sign before; null: there was none. */
export function activeAfter(activeMillis: number, last: number | null, now: number): number {
  const since = last === null ? 0 : now - last;
  return since > 0 && since <= PAUSE ? activeMillis + since : activeMillis;
}

/** Frames a minute, and the minutes that the rest will take; null: too little is known yet. */
export function paceOf({ total, seen, activeMillis }: PassProgress): {
  perMinute: number | null;
  minutesLeft: number | null;
} {
  if (seen < ENOUGH || activeMillis <= 0) return { perMinute: null, minutesLeft: null };
  const perMinute = (seen * 60_000) / activeMillis;
  return { perMinute, minutesLeft: Math.max(0, total - seen) / perMinute };
}

/** Places as text, stretches joined: `0-33,40,51-52`. In any order, each once or more. */
export function placesText(places: Iterable<number>): string {
  const sorted = [...new Set(places)].sort((a, b) => a - b);
  const stretches: [number, number][] = [];
  for (const place of sorted) {
    const last = stretches.at(-1);
    if (last && last[1] === place - 1) last[1] = place;
    else stretches.push([place, place]);
  }
  return stretches.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(',');
}

/** The places of such a text, as far as they lie below `total`; what is no place is left out. */
export function placesOfText(text: string, total: number): Set<number> {
  const places = new Set<number>();
  for (const part of text.split(',')) {
    const [, from, to = from] = /^(\d+)(?:-(\d+))?$/.exec(part) ?? [];
    if (from === undefined) continue;
    for (let place = Number(from); place <= Number(to) && place < total; place++) places.add(place);
  }
  return places;
}
