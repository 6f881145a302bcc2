import type { AssetRole } from '../card/types';
import type { FolderOwner } from '../folders/ownFolder';
import type { FolderPlan } from '../folders/plan';
import { checkTargets, homes, placeIn, renderFolder, sidecarOf } from '../intake/plan';
import type { PlanProblem } from '../intake/types';
import { collisionKey } from '../naming/legalName';
import {
  describePatternProblem,
  freeName,
  parsePattern,
  renderName,
  usesOriginal,
  type NameFacts,
} from '../naming/pattern';
import type { CaptureTime } from '../time/captureTime';

/** One file of a frame, below each volume that has it. */
export interface MoveFile {
  assetId: string;
  path: string;
  role: AssetRole;
}

/** A frame as it stands in its shoot. `id` null: files that belong to no frame. */
export interface MoveFrame {
  id: string | null;
  name: string;
  original: string;
  /** name of the card it came on; empty where that is not known */
  card: string;
  folder: string;
  place: string;
  capture: CaptureTime | null;
  model: string;
  serial: string;
  stars: number;
  /** its first keyword; missing: none */
  keyword?: string;
  files: MoveFile[];
}

/** The shoot that frames go into: theirs under a new pattern, another one, or one that is made for them. */
export interface MoveInto {
  title: string;
  /** YYYY-MM-DD */
  date: string;
  client: string;
  place: string;
  pattern: string;
  folders: FolderPlan;
  /** where its numbers carry on */
  nextSeq: number;
}

export interface MoveInput {
  /** in order of time */
  frames: readonly MoveFrame[];
  into: MoveInto;
  /** named as the shoot they go into names its frames; otherwise names stay, unless they are taken there */
  rename: boolean;
  /** the plan of the shoot that they come from; missing: the same */
  source?: Pick<FolderPlan, 'originals' | 'rejects'>;
  /** they stay in the folders that they lie in, whatever the plan says of folders: they are named anew, and nothing else */
  inPlace?: boolean;
  /** a number whose name is taken is passed over; otherwise that is a problem of the plan */
  passesTaken?: boolean;
  /** whose folders there are; missing: no other shoot's */
  owner?: FolderOwner;
  /** the shoot is made for them: it may not be called as one that has its folder already */
  isNew?: boolean;
  creator: string;
  /** 0…23 */
  dayStartHour: number;
}

/** Where one frame goes with all its files. */
export interface PlannedMove {
  id: string | null;
  from: { name: string; folder: string; place: string };
  to: { name: string; folder: string; place: string };
  files: { assetId: string; from: string; to: string }[];
}

export interface MovePlan {
  moves: PlannedMove[];
  folders: string[];
  nextSeq: number;
  problems: PlanProblem[];
}

/**
 * Names and places frames anew: for splitting and merging shoots and for renaming. All files of a frame keep one
 * base name; numbers carry on. Pure. `exists` tells whether a place is taken by something that does not move.
 */
export function planMove(input: MoveInput, exists: (to: string) => boolean): MovePlan {
  const { into } = input;
  const parts = [into.pattern, into.folders.path, into.folders.below ?? ''].map(
    (pattern) => [pattern, parsePattern(pattern)] as const,
  );
  const problems = parts.flatMap(([pattern, parsed]): PlanProblem[] =>
    parsed.ok ? [] : [{ kind: 'pattern', message: describePatternProblem(pattern, parsed.problem) }],
  );
  const [name, folder, below] = parts.map(([, parsed]) => (parsed.ok ? parsed.tokens : []));
  if (problems.length > 0 || !name || !folder || !below)
    return { moves: [], folders: [], nextSeq: into.nextSeq, problems };

  const own = homes(input.isNew ? into.title : '', input.owner);
  let seq = into.nextSeq;
  const claimed = new Set<string>();
  const taken = (to: string) => claimed.has(collisionKey(to)) || exists(to);
  const moves: PlannedMove[] = [];
  const sidecars: { from: string; to: string }[] = [];
  for (const frame of input.frames.filter((f) => f.id !== null)) {
    const facts = (number: number): NameFacts => ({ ...nameFacts(input, frame), seq: number });
    const planned = own.homeOf(
      renderFolder(folder, { dayStartHour: input.dayStartHour, shoot: into }, facts(seq)),
    );
    const [home, place] = input.inPlace
      ? [frame.folder, frame.place]
      : [
          planned,
          placeAsBefore(planned, frame, input) ?? placeIn(planned, into.folders.originals, below, facts(seq)),
        ];
    const filesAs = (base: string) =>
      frame.files.map((file) => ({
        assetId: file.assetId,
        from: file.path,
        to: `${place}/${base}${endingAfter(file.path, frame.name)}`,
      }));
    // The sidecar beside the originals needs its name as well.
    const stays = (base: string) => base === frame.name && place === frame.place;
    const isTaken = (base: string) =>
      !(stays(base) && !claimed.has(collisionKey(sidecarOf(place, base)))) &&
      [...filesAs(base).map(({ to }) => to), sidecarOf(place, base)].some(taken);
    let base = input.rename ? renderName(name, facts(seq++)) : frame.name;
    for (let tries = 0; input.rename && input.passesTaken && isTaken(base) && tries < MAX_TRIES; tries++) {
      const next = renderName(name, facts(seq++));
      // Without a number in it, it is the same however often it is asked for.
      if (next === base) break;
      base = next;
    }
    // Names that come from cameras may be equal.
    if (input.rename && usesOriginal(name)) base = freeName(base, isTaken);
    // A name that stays gives way to one that is there already, by the number after the last.
    for (let tries = 0; !input.rename && isTaken(base); tries++) {
      const next = renderName(name, facts(seq++));
      base = next === base || tries >= MAX_TRIES ? `${frame.name}_${seq}` : next;
    }
    const files = filesAs(base);
    if (!stays(base) || claimed.has(collisionKey(sidecarOf(place, base))))
      sidecars.push({ from: frame.name, to: sidecarOf(place, base) });
    for (const to of [...files.map((file) => file.to), sidecarOf(place, base)]) claimed.add(collisionKey(to));
    moves.push({
      id: frame.id,
      from: { name: frame.name, folder: frame.folder, place: frame.place },
      to: { name: base, folder: home, place },
      files,
    });
  }
  const folders = [...new Set(moves.map((move) => move.to.folder))];
  const home =
    folders[0] ??
    own.homeOf(
      renderFolder(folder, { dayStartHour: input.dayStartHour, shoot: into }, nameFacts(input, null)),
    );
  for (const loose of input.inPlace ? [] : input.frames.filter((f) => f.id === null))
    moves.push(moveLoose(loose, home, into, taken));
  const ways = moves.flatMap((move) => move.files).filter(({ from, to }) => from !== to);
  return {
    moves: moves.filter((move) => move.id !== null || move.files.some(({ from, to }) => from !== to)),
    folders: folders.length > 0 ? folders : [home],
    nextSeq: seq,
    problems: [...(input.isNew ? own.twice() : []), ...checkTargets([...ways, ...sidecars], exists)],
  };
}

/**
 * Where a frame goes that was set aside, or put into a sub-folder by hand: into the same one below its new folder. Null: it lies with the
 * originals, or where the plan makes their sub-folders.
 */
function placeAsBefore(
  home: string,
  { folder, place }: MoveFrame,
  { into, source }: MoveInput,
): string | null {
  const { originals, rejects } = source ?? into.folders;
  const below = (name: string): string | null => {
    const from = `${folder}/${name}`;
    return place === from || place.startsWith(`${from}/`) ? place.slice(from.length) : null;
  };
  const aside = below(rejects);
  if (aside !== null) return `${home}/${into.folders.rejects}${aside}`;
  const inside = below(originals);
  return inside && !into.folders.below ? `${home}/${into.folders.originals}${inside}` : null;
}

/** Numbers that may be taken one after the other; above, the frame's own name with a number is used. */
const MAX_TRIES = 10_000;

/** Files of no frame keep their way below the originals. */
function moveLoose(
  loose: MoveFrame,
  home: string,
  into: MoveInto,
  taken: (to: string) => boolean,
): PlannedMove {
  const to = `${home}/${into.folders.originals}`;
  const asThere = loose.files.map((file) => ({
    assetId: file.assetId,
    from: file.path,
    to: `${to}/${file.path.slice(loose.place.length + 1)}`,
  }));
  const free = (run: number) =>
    asThere.map((file) => (run === 1 ? file : { ...file, to: file.to.replace(`${to}/`, `${to}/_${run}_`) }));
  let run = 1;
  while (run < 1000 && free(run).some((file) => file.to !== file.from && taken(file.to))) run++;
  const { name, folder, place } = loose;
  return { id: null, from: { name, folder, place }, to: { name, folder: home, place: to }, files: free(run) };
}

/** What follows the base name: the extension, and `_card` before it for the camera's own sidecar. */
export function endingAfter(path: string, base: string): string {
  const file = path.slice(path.lastIndexOf('/') + 1);
  return file.startsWith(base) ? file.slice(base.length) : file.slice(file.lastIndexOf('.'));
}

function nameFacts(input: MoveInput, frame: MoveFrame | null): NameFacts {
  return {
    shoot: input.into.title,
    client: input.into.client,
    place: input.into.place,
    creator: input.creator,
    card: frame?.card ?? '',
    capture: frame?.capture ?? null,
    seq: input.into.nextSeq,
    original: frame?.original ?? '',
    body: frame?.model ?? '',
    serial: frame?.serial ?? '',
    stars: frame?.stars ?? 0,
  };
}

/**
 * The moves in an order in which no frame comes to a place before the one that stands there has left it. Where frames
 * change places in a ring, one of them steps aside first and is in the list twice.
 */
export function orderMoves(moves: readonly PlannedMove[]): PlannedMove[] {
  const at = new Map<string, number>();
  moves.forEach((move, i) => move.files.forEach((file) => at.set(collisionKey(file.from), i)));
  // A move waits for those that leave the places it needs.
  const waitsFor = moves.map((move, i) => [
    ...new Set(move.files.flatMap(({ to }) => at.get(collisionKey(to)) ?? []).filter((other) => other !== i)),
  ]);
  const ordered: PlannedMove[] = [];
  const state = new Map<number, 'open' | 'done'>();
  const last: PlannedMove[] = [];
  // Chains may be as long as the shoot: a stack of our own instead of recursion.
  for (let start = 0; start < moves.length; start++) {
    const stack = [start];
    while (stack.length > 0) {
      const i = stack.at(-1)!;
      if (state.get(i) === 'done') {
        stack.pop();
        continue;
      }
      state.set(i, 'open');
      const next = waitsFor[i]!.find((other) => !state.has(other));
      if (next !== undefined) {
        stack.push(next);
        continue;
      }
      stack.pop();
      const move = moves[i]!;
      if (waitsFor[i]!.some((other) => state.get(other) === 'open')) {
        const [first, second] = inTwoSteps(move);
        ordered.push(first);
        last.push(second);
      } else ordered.push(move);
      state.set(i, 'done');
    }
  }
  return [...ordered, ...last];
}

/** Aside within its own folder, then where it belongs. */
function inTwoSteps(move: PlannedMove): [PlannedMove, PlannedMove] {
  const name = `${move.from.name}_aside`;
  const aside = (path: string) => `${move.from.place}/${name}${endingAfter(path, move.from.name)}`;
  const between = { ...move.from, name };
  return [
    { ...move, to: between, files: move.files.map((f) => ({ ...f, to: aside(f.from) })) },
    { ...move, from: between, files: move.files.map((f) => ({ ...f, from: aside(f.from) })) },
  ];
}

/** Where each frame was before the first and is after the last of its moves, in a list that may name it twice. */
export function wholeWays(moves: readonly PlannedMove[]): PlannedMove[] {
  const whole = new Map<string, PlannedMove>();
  for (const move of moves) {
    const key = move.files[0]?.assetId ?? move.id ?? '';
    const first = whole.get(key);
    const files = move.files.map((file) => ({
      ...file,
      from: first?.files.find((f) => f.assetId === file.assetId)?.from ?? file.from,
    }));
    whole.set(key, { ...move, from: first?.from ?? move.from, files });
  }
  return [...whole.values()];
}
