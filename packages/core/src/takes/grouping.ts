import { correctionOf, type Correction, type TakeKind } from './correction';
import { takeKindOf, type TakeFacts } from './kinds';

/** What takes are made from. */
export interface GroupedFrame extends TakeFacts {
  id: string;
  /** tells one camera from another; null where the file does not say */
  body: string | null;
  /** how much it looks like the frame of its body before it, see `closeness`; null: not compared */
  close: number | null;
  /** what a person said of it, as it is kept */
  take: string | null;
}

/** Frames of the same moment or subject. */
export interface Take {
  /** id of its first frame */
  key: string;
  /** ids in order of time */
  ids: readonly string[];
  /** null: a frame alone */
  kind: TakeKind | null;
  /** id of the frame that stands for it */
  lead: string;
  /** what a person said of it: a place of one of its frames, its kind or its lead */
  corrected: boolean;
}

/**
 * How sure it is that a frame goes on with the take of the one before it, as a logit: 0 is as likely as not. `close` as
 * `closeness` gives it, `gap` in milliseconds. Fitted (logistic regression) on neighbours of made shoots and open series;
 * see docs/grouping.md. Where nothing was compared the time decides alone: cameras shoot bursts at three frames a second and
 * more, and who presses anew needs more than a second. Where no time is known the pixels alone do.
 */
export function bond(close: number | null, gap: number | null): number {
  if (gap === null) return close === null ? -SURE : held(close);
  const seconds = Math.abs(gap) / 1000;
  if (close === null) return held(4 * Math.log(1.5 / Math.max(0.01, seconds)));
  return held(NEAR.close * close + NEAR.gap * Math.log10(seconds + 0.05) + NEAR.all);
}

const NEAR = { close: 1.24, gap: -4.22, all: 3.25 };
/** Bonds beyond this are all as sure. */
const SURE = 8;
const held = (value: number): number => Math.min(SURE, Math.max(-SURE, value));

/** The limit at which frames part, by how strictly they are to be grouped: −1, as loosely as can be, … 0 … 1, strictly. */
export const limitAt = (strictness: number): number => 5 * strictness;

/** How frames are to be grouped. */
export interface GroupingWish {
  /** −1, as loosely as can be, … 1, strictly */
  strictness?: number;
  /** takes that two bodies shot at one moment are one */
  bodiesTogether?: boolean;
}

/**
 * Groups frames into takes. `frames` in order of time; takes come in the order of their first frames, and the frames of each in
 * order of time. Frames of one body follow each other in a take as long as the bond of each with the one before it is
 * above the limit: a small change of it parts or joins few. What a person said stands above all that: their cuts, joins
 * and places hold at every limit. The same frames give the same takes.
 */
export function takesOf(
  frames: readonly GroupedFrame[],
  { strictness = 0, bodiesTogether = false }: GroupingWish = {},
): Take[] {
  const limit = limitAt(strictness);
  const corrections = frames.map(({ take }) => correctionOf(take));
  const at = new Map(frames.map(({ id }, i) => [id, i]));
  const takeOf = new Int32Array(frames.length).fill(-1);
  let count = 0;
  for (const { place, before, bond: found } of links(frames, corrections, at)) {
    const said = corrections[place]!.place;
    const goesOn =
      before !== null && said !== 'cut' && (said === 'join' || (found !== null && found >= limit));
    takeOf[place] = goesOn ? takeOf[before]! : count++;
  }
  if (bodiesTogether) joinMoments(frames, corrections, takeOf);
  frames.forEach((_, i) => {
    if (takeOf[i] !== -1) return;
    const home = homeOf(i, frames, corrections, at);
    takeOf[i] = home !== i && takeOf[home] !== -1 ? takeOf[home]! : count++;
  });
  return gathered(frames, corrections, takeOf);
}

/** A frame among those of its body. */
interface Link {
  place: number;
  /** place of the one of its body before it; null: it is the first */
  before: number | null;
  /** of the two; null: there is none before, or it has no time */
  bond: number | null;
}

/** Each frame with the one of its body before it. Who was placed elsewhere is not there for the frames around it either. */
function* links(
  frames: readonly GroupedFrame[],
  corrections: readonly Correction[],
  at: ReadonlyMap<string, number>,
): Generator<Link> {
  const last = new Map<string, number>();
  for (const [place, { id, body, instant, close }] of frames.entries()) {
    const said = corrections[place]!.place;
    if (said !== null && typeof said === 'object' && isThere(said.with, id, at)) continue;
    const before = last.get(body ?? '') ?? null;
    last.set(body ?? '', place);
    const gap = before === null ? null : gapBetween(frames[before]!.instant, instant);
    yield { place, before, bond: before === null || instant === null ? null : bond(close, gap) };
  }
}

/**
 * The frame of its body before one, which `join` means; null: there is none, or it was placed elsewhere itself. `frames` in order
 * of time.
 */
export function bodyBefore(frames: readonly GroupedFrame[], id: string): string | null {
  const at = new Map(frames.map((frame, i) => [frame.id, i]));
  for (const { place, before } of links(
    frames,
    frames.map(({ take }) => correctionOf(take)),
    at,
  ))
    if (frames[place]!.id === id) return before === null ? null : frames[before]!.id;
  return null;
}

/** Milliseconds between the last frame of one body and the first of another that shoot one moment. */
const MOMENT = 1000;

/** Takes of several bodies whose times meet become the first of them. What somebody put in its place stays there. */
function joinMoments(
  frames: readonly GroupedFrame[],
  corrections: readonly Correction[],
  takeOf: Int32Array,
): void {
  interface Span {
    take: number;
    from: number;
    to: number;
  }
  const spans = new Map<number, Span>();
  const fixed = new Set<number>();
  frames.forEach(({ instant }, i) => {
    const take = takeOf[i]!;
    if (take === -1) return;
    if (corrections[i]!.place !== null) fixed.add(take);
    if (instant === null) return;
    const span = spans.get(take) ?? { take, from: instant, to: instant };
    spans.set(take, { take, from: Math.min(span.from, instant), to: Math.max(span.to, instant) });
  });
  const into = new Map<number, number>();
  const free = [...spans.values()].filter(({ take }) => !fixed.has(take)).sort((a, b) => a.from - b.from);
  let first = free[0];
  for (const span of free.slice(1)) {
    if (span.from <= first!.to + MOMENT && !sameBody(span.take, first!.take, frames, takeOf)) {
      into.set(span.take, first!.take);
      first = { ...first!, to: Math.max(first!.to, span.to) };
    } else if (span.to >= first!.to) first = span;
  }
  takeOf.forEach((take, i) => (takeOf[i] = into.get(take) ?? take));
}

/** Two takes of one body were parted by what they look like: no other body brings them together. */
function sameBody(a: number, b: number, frames: readonly GroupedFrame[], takeOf: Int32Array): boolean {
  const bodyOf = (take: number) => frames[takeOf.indexOf(take)]?.body;
  return bodyOf(a) === bodyOf(b);
}

/** A frame of which it is doubtful whether a new take begins with it. */
export interface Doubt {
  id: string;
  /** the frame of its body before it */
  before: string;
  /** how far its bond is from the limit: 0, as likely as not */
  distance: number;
}

/** Bonds this near to the limit are doubtful: by the fit, one time in five or more often the other way would be right. */
const DOUBTFUL = 1.4;

/** Where it is doubtful whether a take begins, the most doubtful first; of what somebody has decided nothing is. */
export function doubtsOf(frames: readonly GroupedFrame[], strictness = 0): Doubt[] {
  const corrections = frames.map(({ take }) => correctionOf(take));
  const at = new Map(frames.map(({ id }, i) => [id, i]));
  const doubts: Doubt[] = [];
  for (const { place, before, bond: found } of links(frames, corrections, at)) {
    if (before === null || found === null || corrections[place]!.place !== null) continue;
    const distance = Math.abs(found - limitAt(strictness));
    if (distance <= DOUBTFUL) doubts.push({ id: frames[place]!.id, before: frames[before]!.id, distance });
  }
  return doubts.sort((a, b) => a.distance - b.distance);
}

/** Where the slider agrees best with the cuts and joins that were made. */
export interface Agreement {
  strictness: number;
  /** how many of how many it agrees with there, and where it stands now */
  agrees: number;
  now: number;
  of: number;
}

/** Cuts and joins that are needed before they say anything of the slider. */
const ENOUGH_SAID = 3;

/** Of the places of the slider, in tenths, the one that agrees with the most corrections, the nearest first; null: none is better. */
export function agreementOf(frames: readonly GroupedFrame[], strictness: number): Agreement | null {
  const corrections = frames.map(({ take }) => correctionOf(take));
  const at = new Map(frames.map(({ id }, i) => [id, i]));
  const said: { bond: number; goesOn: boolean }[] = [];
  for (const { place, bond: found } of links(frames, corrections, at)) {
    const word = corrections[place]!.place;
    if (found !== null && typeof word === 'string') said.push({ bond: found, goesOn: word === 'join' });
  }
  if (said.length < ENOUGH_SAID) return null;
  const agreesAt = (tenth: number) =>
    said.filter(({ bond: found, goesOn }) => found >= limitAt(tenth / 10) === goesOn).length;
  const now = agreesAt(Math.round(strictness * 10));
  let best = { tenth: Math.round(strictness * 10), agrees: now };
  const places = Array.from({ length: 21 }, (_, i) => i - 10);
  places.sort((a, b) => Math.abs(a - strictness * 10) - Math.abs(b - strictness * 10));
  for (const tenth of places) {
    const agrees = agreesAt(tenth);
    if (agrees > best.agrees) best = { tenth, agrees };
  }
  return best.agrees === now
    ? null
    : { strictness: best.tenth / 10, agrees: best.agrees, now, of: said.length };
}

const isThere = (id: string, own: string, at: ReadonlyMap<string, number>): boolean =>
  id === own || at.has(id);

const gapBetween = (before: number | null, instant: number | null): number | null =>
  before === null || instant === null ? null : instant - before;

/** The frame whose take another belongs to, over frames that were placed in turn; itself where these lead in a circle. */
function homeOf(
  from: number,
  frames: readonly GroupedFrame[],
  corrections: readonly Correction[],
  at: ReadonlyMap<string, number>,
): number {
  let here = from;
  for (const seen = new Set<number>(); !seen.has(here);) {
    seen.add(here);
    const { place } = corrections[here]!;
    if (place === null || typeof place === 'string' || place.with === frames[here]!.id) return here;
    const next = at.get(place.with);
    if (next === undefined) return here;
    here = next;
  }
  return from;
}

function gathered(
  frames: readonly GroupedFrame[],
  corrections: readonly Correction[],
  takeOf: Int32Array,
): Take[] {
  const members = new Map<number, number[]>();
  frames.forEach((_, i) => {
    const ofTake = members.get(takeOf[i]!) ?? [];
    ofTake.push(i);
    members.set(takeOf[i]!, ofTake);
  });
  // A map keeps the order in which its keys came: that of the first frames.
  return [...members.values()].map((of) => {
    const said = of.map((i) => corrections[i]!);
    const lead = of.find((i) => corrections[i]!.lead) ?? of[0]!;
    const kind = said.find((one) => one.kind !== null)?.kind ?? takeKindOf(of.map((i) => frames[i]!));
    return {
      ...{ key: frames[of[0]!]!.id, ids: of.map((i) => frames[i]!.id), lead: frames[lead]!.id },
      kind: of.length > 1 ? kind : null,
      corrected: said.some(
        ({ place, lead: isLead, kind: named }) => place !== null || isLead || named !== null,
      ),
    };
  });
}
