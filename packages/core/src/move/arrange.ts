import { checkTargets, sidecarOf } from '../intake/plan';
import type { PlanProblem } from '../intake/types';
import { collisionKey } from '../naming/legalName';
import {
  describePatternProblem,
  freeName,
  numberInName,
  parsePattern,
  renderName,
  renderPattern,
  usesOriginal,
  type NameFacts,
  type PatternToken,
} from '../naming/pattern';
import { endingAfter, type MoveFrame, type MoveInto, type MovePlan, type PlannedMove } from './plan';

/** How frames of one shoot are to be called, and where they are to lie in it. */
export interface Arrangement {
  /** names by a pattern; null: they keep theirs */
  pattern: string | null;
  /** a name for one frame, which no field stands in; null: none is given */
  name: string | null;
  /**
   * the folder below the originals, `proofs/second`, in which fields may stand, as `{keyword}`; empty: the originals themselves; null:
   * where they lie
   */
  below: string | null;
  /** null: numbers go on behind those that the pattern has given in the shoot, and begin at 1 where it has given none */
  seqStart: number | null;
  /** YYYY-MM-DD */
  today: string;
  /** the day on which it is to be delivered, YYYY-MM-DD; null: none is said */
  due: string | null;
}

export interface ArrangeInput {
  /** those that are named or moved, in order of time */
  frames: readonly MoveFrame[];
  /** the others of the shoot that they come to lie in */
  others: readonly MoveFrame[];
  /** that shoot */
  shoot: MoveInto;
  /** its folder, where they come from another shoot; null: each stays in the folder that it is in */
  home: string | null;
  how: Arrangement;
  creator: string;
  /** they stay as they are, and what comes to lie there are copies of them */
  copies: boolean;
}

/**
 * Names frames of a shoot anew, or moves or copies them into a folder below its originals or below those of another shoot, each
 * with all its files. What stays, stays; pure. `exists` tells whether a place is taken by something that does not move.
 */
export function planArrange(input: ArrangeInput, exists: (to: string) => boolean): MovePlan {
  const { frames, shoot, home, how, copies } = input;
  const parsed = parsePattern(how.pattern ?? '');
  const below = parsePattern(how.below ?? '');
  const wrong = (
    [
      [how.pattern, parsed],
      [how.below, below],
    ] as const
  ).flatMap(([text, one]): PlanProblem[] =>
    one.ok ? [] : [{ kind: 'pattern', message: describePatternProblem(text!, one.problem) }],
  );
  if (!parsed.ok || !below.ok || (how.name !== null && frames.length !== 1))
    return { moves: [], folders: [], nextSeq: shoot.nextSeq, problems: wrong };
  const tokens = how.pattern === null ? null : parsed.tokens;
  let seq = how.seqStart ?? (tokens ? nextNumber(tokens, input) : 1);
  const claimed = new Set<string>();
  const taken = (to: string): boolean => claimed.has(collisionKey(to)) || exists(to);
  const moves: PlannedMove[] = [];
  const sidecars: { from: string; to: string }[] = [];
  for (const frame of frames) {
    const folder = home ?? frame.folder;
    const inside =
      how.below === null && home === null
        ? null
        : insideOf(renderPattern(below.tokens, factsOf(input, frame, seq)));
    const place =
      inside === null
        ? frame.place
        : [folder, shoot.folders.originals, ...(inside === '' ? [] : [inside])].join('/');
    const filesAs = (base: string) =>
      frame.files.map((file) => ({
        assetId: file.assetId,
        from: file.path,
        to: `${place}/${base}${endingAfter(file.path, frame.name)}`,
      }));
    const placesOf = (base: string): string[] => [
      ...filesAs(base).map(({ to }) => to),
      sidecarOf(place, base),
    ];
    // A copy never takes the place of what it is a copy of.
    const stays = (base: string): boolean => !copies && base === frame.name && place === frame.place;
    const isTaken = (base: string): boolean =>
      !(stays(base) && !claimed.has(collisionKey(sidecarOf(place, base)))) && placesOf(base).some(taken);
    let base = frame.name;
    if (how.name !== null) base = how.name;
    else if (tokens) {
      base = renderName(tokens, factsOf(input, frame, seq++));
      // Names that come from cameras may be equal.
      if (usesOriginal(tokens)) base = freeName(base, isTaken);
      // A number that something has is passed over, where nobody said at which numbers begin.
      for (let tries = 0; how.seqStart === null && isTaken(base) && tries < MAX_TRIES; tries++) {
        const next = renderName(tokens, factsOf(input, frame, seq++));
        if (next === base) break;
        base = next;
      }
    }
    // In another folder a name that stays gives way to one that is there already.
    else base = freeName(base, isTaken);
    const places = placesOf(base);
    if (!stays(base)) sidecars.push({ from: frame.name, to: sidecarOf(place, base) });
    for (const to of places) claimed.add(collisionKey(to));
    moves.push({
      id: frame.id,
      from: { name: frame.name, folder: frame.folder, place: frame.place },
      to: { name: base, folder, place },
      files: filesAs(base),
    });
  }
  const ways = moves.flatMap((move) => move.files).filter(({ from, to }) => from !== to);
  return {
    moves: moves.filter((move) => move.files.some(({ from, to }) => from !== to)),
    folders: [...new Set(moves.map(({ to }) => to.folder))],
    nextSeq: shoot.nextSeq,
    problems: checkTargets([...ways, ...sidecars], exists),
  };
}

/** Numbers that are passed over one after the other. */
const MAX_TRIES = 10_000;

/** A folder as it is typed: blanks around its parts, and slashes that lead nowhere, are nothing. */
const insideOf = (below: string): string =>
  below
    .split(/[/\\]/)
    .map((part) => part.trim().normalize('NFC'))
    .filter((part) => part !== '' && part !== '.')
    .join('/');

/** Behind the greatest number that a pattern has given to frames that keep their names. */
function nextNumber(tokens: readonly PatternToken[], input: ArrangeInput): number {
  let last = 0;
  for (const frame of input.others) {
    const number = numberInName(tokens, factsOf(input, frame, 0), frame.name);
    if (number !== null && number > last) last = number;
  }
  return last + 1;
}

function factsOf({ shoot, how, creator }: ArrangeInput, frame: MoveFrame, seq: number): NameFacts {
  const { title, client, place } = shoot;
  const { card, capture, original, model, serial, stars, keyword } = frame;
  return {
    ...{ shoot: title, client, place, creator, card, capture, seq, original },
    ...{ body: model, serial, stars, today: how.today, due: how.due, keyword },
  };
}

/** The number in a name that a frame keeps when it is called otherwise: its last digits; null: there are none. */
export const numberKept = (name: string): string | null => /(\d+)\D*$/.exec(name)?.[1] ?? null;

/** The folder below a shoot’s originals in which files lie; null: elsewhere, as rejects that were set aside. */
export function belowOriginals(folder: string, place: string, originals: string): string | null {
  const home = `${folder}/${originals}`;
  if (place === home) return '';
  return place.startsWith(`${home}/`) ? place.slice(home.length + 1) : null;
}
