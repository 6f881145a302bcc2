/** What is known of a picture that came back from editing. */
export interface ReturnedFacts {
  /** its file's name without the ending */
  name: string;
  /** ids of frames that its own metadata, or a sidecar beside it, name */
  frameIds: readonly string[];
  /** files that it says it was made from: names or whole paths, of any system */
  derivedFrom: readonly string[];
  /** what its file was called before; null: it does not say */
  preserved: string | null;
  /** the camera's local time, `YYYY-MM-DDTHH:mm:ss`; null: it does not say */
  local: string | null;
}

/** A frame that something may have come back from. */
export interface Original {
  id: string;
  name: string;
  /** what the camera called it */
  original: string;
  /** the camera's local time, as in {@link ReturnedFacts} */
  local: string | null;
}

/** By what a picture that came back was matched, the surest first. */
export const MATCHED_BY = ['id', 'derived', 'preserved', 'name', 'time', 'look', 'hand'] as const;
export type MatchedBy = (typeof MATCHED_BY)[number];

/** What a picture came back from, or may have. */
export interface ReturnMatch {
  by: MatchedBy;
  /** false: somebody has to be asked which it is */
  sure: boolean;
  /** ids: all that it was made from where that is sure, else those among which it is, the likeliest first */
  frames: string[];
}

/** A stack or a panorama is rarely of more frames than this; what looks like a longer row is a name that only looks so. */
const LONGEST_ROW = 60;

/**
 * Finds what a picture was made from, by what it says of itself and by its name; null: nothing tells. It may have several originals (a
 * stack, a panorama). Time alone is never sure: another frame may have been taken in the same second.
 */
export function matchReturn(facts: ReturnedFacts, frames: readonly Original[]): ReturnMatch | null {
  return (
    byId(facts, frames) ??
    byDerived(facts, frames) ??
    byPreserved(facts, frames) ??
    byName(facts.name, frames) ??
    byTime(facts, frames)
  );
}

function byId({ frameIds }: ReturnedFacts, frames: readonly Original[]): ReturnMatch | null {
  const found = frames.filter(({ id }) => frameIds.includes(id));
  return found.length === 0 ? null : { by: 'id', sure: true, frames: found.map(({ id }) => id) };
}

function byDerived({ derivedFrom }: ReturnedFacts, frames: readonly Original[]): ReturnMatch | null {
  const sources = derivedFrom.map((file) => called(baseOf(file), frames)).filter((its) => its.length > 0);
  if (sources.length === 0) return null;
  const sure = sources.every((its) => its.length === 1);
  return { by: 'derived', sure, frames: [...new Set(sources.flat().map(({ id }) => id))] };
}

function byPreserved({ preserved }: ReturnedFacts, frames: readonly Original[]): ReturnMatch | null {
  const found = preserved === null ? [] : called(baseOf(preserved), frames);
  return found.length === 0
    ? null
    : { by: 'preserved', sure: found.length === 1, frames: found.map(({ id }) => id) };
}

/** Frames that bear a name, or bore it in the camera; the archive's own names first. */
function called(name: string, frames: readonly Original[]): Original[] {
  const key = keyOf(name);
  const now = frames.filter((frame) => keyOf(frame.name) === key);
  return now.length > 0 ? now : frames.filter((frame) => keyOf(frame.original) === key);
}

/**
 * A name that is a frame's, or holds it between what is no letter and no digit: `regatta_0012-bw`, `web regatta_0012 (2)`. Several
 * names are several originals; so may be a name and a number behind it (`regatta_0012-0015`), of which somebody is asked.
 */
function byName(name: string, frames: readonly Original[]): ReturnMatch | null {
  for (const by of ['name', 'original'] as const) {
    const within = keyOf(name);
    const held = frames.filter((frame) => isWithin(keyOf(frame[by]), within));
    // A name that is part of a longer one that is there as well is not meant: “day_2” in “day_2_0001”.
    const meant = held.filter((one) => !held.some((other) => isPartOf(keyOf(one[by]), keyOf(other[by]))));
    if (meant.length === 0) continue;
    const names = new Set(meant.map((frame) => keyOf(frame[by])));
    if (names.size > 1 || meant.length > 1)
      return { by: 'name', sure: names.size === meant.length, frames: meant.map(({ id }) => id) };
    const [first] = meant as [Original];
    const row = rowFrom(first, by, within, frames);
    return row.length > 1
      ? { by: 'name', sure: false, frames: row.map(({ id }) => id) }
      : { by: 'name', sure: true, frames: [first.id] };
  }
  return null;
}

/** The frames from one up to the number that stands behind its name; itself where none does, or some are missing. */
function rowFrom(
  first: Original,
  by: 'name' | 'original',
  within: string,
  frames: readonly Original[],
): Original[] {
  const name = keyOf(first[by]);
  const [, stem = '', digits = ''] = /^(.*?)(\d+)$/.exec(name) ?? [];
  const behind = /^ ?[-–~] ?(\d+)(?![\p{L}\d])/u.exec(within.slice(within.indexOf(name) + name.length));
  if (digits === '' || behind?.[1]?.length !== digits.length) return [first];
  const [from, to] = [Number(digits), Number(behind[1])];
  if (to <= from || to - from >= LONGEST_ROW) return [first];
  const row: Original[] = [];
  for (let n = from; n <= to; n++) {
    const key = `${stem}${String(n).padStart(digits.length, '0')}`;
    const found = frames.filter((frame) => keyOf(frame[by]) === key);
    if (found.length !== 1) return [first];
    row.push(found[0]!);
  }
  return row;
}

function byTime({ local }: ReturnedFacts, frames: readonly Original[]): ReturnMatch | null {
  const found = local === null ? [] : frames.filter((frame) => frame.local === local);
  return found.length === 0 ? null : { by: 'time', sure: false, frames: found.map(({ id }) => id) };
}

const isPartOf = (one: string, other: string): boolean => one !== other && isWithin(one, other);

/** Whether a name stands in another, between what is no letter and no digit. */
function isWithin(name: string, within: string): boolean {
  if (name === '') return false;
  for (let at = within.indexOf(name); at >= 0; at = within.indexOf(name, at + 1)) {
    const before = within.slice(0, at);
    const after = within.slice(at + name.length);
    if (!/[\p{L}\d]$/u.test(before) && !/^[\p{L}\d]/u.test(after)) return true;
  }
  return false;
}

/** Names that file systems and programs hold for equal. */
const keyOf = (name: string): string => name.normalize('NFC').toLowerCase();

/** A file's base name, of a path of any system. */
function baseOf(path: string): string {
  const file = path.slice(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
  const dot = file.lastIndexOf('.');
  return dot > 0 ? file.slice(0, dot) : file;
}
