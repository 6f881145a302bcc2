import { parseDcfBase, parseDcfDirectory, compareDcf, splitPath } from '../card/dcf';
import {
  collisionKey,
  legalOriginal,
  MAX_NAME_BYTES,
  nameProblem,
  shortened,
  toNamePart,
  type NameProblem,
  shownName,
} from '../naming/legalName';
import {
  DEFAULT_SEQ_WIDTH,
  describePatternProblem,
  freeName,
  parsePattern,
  renderName,
  renderPattern,
  usesOriginal,
  type NameFacts,
  type PatternToken,
} from '../naming/pattern';
import { instantMillis, shootDay, type CaptureTime } from '../time/captureTime';
import { ownFolder, sameShoot, type FolderOwner } from '../folders/ownFolder';
import type { IntakeInput, IntakePlan, PlanFrame, PlanItem, PlannedFrame, PlanProblem } from './types';

/**
 * Longest path below a volume, in UTF-16 units. Windows allows 259 with the drive letter unless a program asks
 * for more; 40 are left for the volume's own place there.
 */
export const MAX_PATH_UNITS = 220;

/**
 * Names and places every file of a card: frames in the order of their corrected capture time, all files of one
 * frame under one base name. Pure: nothing is touched. `exists` tells whether a target is taken already.
 */
export function planIntake(input: IntakeInput, exists: (to: string) => boolean = () => false): IntakePlan {
  const problems: PlanProblem[] = [];
  const name = parsePattern(input.pattern);
  const folder = parsePattern(input.folders.path);
  if (!name.ok)
    problems.push({ kind: 'pattern', message: describePatternProblem(input.pattern, name.problem) });
  const below = parsePattern(input.folders.below ?? '');
  if (!below.ok)
    problems.push({
      kind: 'pattern',
      message: describePatternProblem(input.folders.below ?? '', below.problem),
    });
  if (!folder.ok)
    problems.push({ kind: 'pattern', message: describePatternProblem(input.folders.path, folder.problem) });
  if (!toNamePart(input.shoot.title)) {
    const said = input.shoot.title.trim();
    problems.push(
      said === ''
        ? {
            kind: 'no-title',
            message: 'The shoot has no title. Give it one: names and folders are made of it.',
          }
        : {
            kind: 'bad-title',
            message: `Of the title “${shownName(said)}” nothing can stand in a file’s name. Add a letter or a digit: names and folders are made of it.`,
          },
    );
  }
  if (input.frames.length === 0 && input.extras.length === 0) {
    problems.push({ kind: 'nothing', message: 'There are no files on this card. Choose another card.' });
  }
  if (!name.ok || !folder.ok || problems.length > 0)
    return { items: [], frames: [], folders: [], problems, warnings: [], bytes: 0 };

  const ordered = knownLast(orderFrames(input.frames, input.zoneMinutes), input.known);
  const numbers = sequence(input, ordered);
  const claimed = new Set<string>();
  const fromCard = usesOriginal(name.tokens);
  const { title } = input.shoot;
  const { homeOf, twice } = homes(title, input.owner);
  const frames: PlannedFrame[] = ordered.map((frame, i) => {
    const facts = nameFacts(input, frame, numbers[i]!);
    const home = homeOf(renderFolder(folder.tokens, input, facts));
    const place = placeIn(home, input.folders.originals, below.ok ? below.tokens : [], facts);
    const long = renderName(name.tokens, facts);
    const wanted = fromCard
      ? shortened(long, Math.max(SHORTEST, MAX_PATH_UNITS - place.length - ROOM))
      : long;
    // Names that come from the card may be equal, and no card is refused for its names.
    const isTaken = (base: string) =>
      claimed.has(collisionKey(`${place}/${base}`)) ||
      exists(sidecarOf(place, base)) ||
      frame.files.some((file) => exists(`${place}/${base}${endingOf(file, frame.base)}`));
    const given = fromCard ? freeName(wanted, isTaken) : wanted;
    claimed.add(collisionKey(`${place}/${given}`));
    return { key: frame.key, name: given, folder: home, place, seq: facts.seq };
  });
  const items: PlanItem[] = [];
  ordered.forEach((frame, i) => {
    const planned = frames[i]!;
    for (const file of frame.files) {
      const to = `${planned.place}/${planned.name}${endingOf(file, frame.base)}`;
      const { role, format, raw, size } = file;
      items.push({ from: file.path, to, role, format, raw, size, frameKey: frame.key });
    }
  });
  const home =
    frames[0]?.folder ?? homeOf(renderFolder(folder.tokens, input, nameFacts(input, null, input.seqStart)));
  items.push(...placeExtras(input, home, exists));
  problems.push(...twice(), ...checkTargets(items, exists), ...sharedSidecars(frames, exists));
  return {
    items,
    frames,
    folders: [...new Set(frames.length ? frames.map((f) => f.folder) : [home])],
    problems,
    warnings: unsorted(frames.slice(0, frames.length - (input.known?.length ?? 0)), name.tokens),
    bytes: items.reduce((sum, item) => sum + item.size, 0),
  };
}

/** The folders of a new shoot, each its own; `twice`: those of a shoot that is called as this one. */
export function homes(
  title: string,
  owner: FolderOwner = () => null,
): { homeOf: (planned: string) => string; twice: () => PlanProblem[] } {
  const known = new Map<string, string>();
  const same = new Set<string>();
  const homeOf = (planned: string): string => {
    let home = known.get(planned);
    if (home === undefined) {
      const problem = sameShoot(planned, title, owner);
      if (problem !== null) same.add(problem);
      known.set(planned, (home = problem === null ? ownFolder(planned, owner) : planned));
    }
    return home;
  };
  return { homeOf, twice: () => [...same].map((message) => ({ kind: 'same-shoot', message })) };
}

/** Of a path's units, kept for what follows a base name; and what is left of a card's name at the least. */
const ROOM = 40;
const SHORTEST = 16;

/** Where a frame's own sidecar lies: a frame has this place for itself, whatever its files' extensions. */
export function sidecarOf(place: string, base: string): string {
  return `${place}/${base}.xmp`;
}

/** What follows a frame's base name in a file's. The camera's own sidecar stays an original; `<base>.xmp` is ours. */
function endingOf(file: { path: string; role: PlanItem['role'] }, base: string): string {
  const { name, extension } = splitPath(file.path);
  if (file.role !== 'sidecar') return `.${extension.toLowerCase()}`;
  // `IMG_1.JPG.xmp` and `IMG_1.DNG.xmp` are two.
  const tail = name.slice(base.length);
  return `_card${(tail.startsWith('.') ? tail : `.${extension}`).toLowerCase()}`;
}

/** Every place that a plan fills, its frames' own sidecars included, for plans that are made after it. */
export function placesOf({ items, frames }: Pick<IntakePlan, 'items' | 'frames'>): string[] {
  return [...items.map(({ to }) => to), ...frames.map(({ place, name }) => sidecarOf(place, name))];
}

/** Two frames of one base name in one folder would share a sidecar, whatever their files' extensions. */
function sharedSidecars(frames: readonly PlannedFrame[], exists: (to: string) => boolean): PlanProblem[] {
  const owners = new Map<string, PlannedFrame>();
  const problems: PlanProblem[] = [];
  for (const frame of frames) {
    const sidecar = sidecarOf(frame.place, frame.name);
    const key = collisionKey(sidecar);
    const other = owners.get(key);
    if (other || exists(sidecar))
      problems.push({
        kind: other ? 'collision' : 'exists',
        message: other
          ? `${other.key} and ${frame.key} would both be called “${frame.name}”, and share one sidecar. Add {number:4} or {original} to the pattern.`
          : `${frame.key} would be called “${frame.name}”, as a frame in ${frame.place} is already. Start the numbers higher or change the title.`,
        from: frame.key,
        to: sidecar,
      });
    else owners.set(key, frame);
  }
  return problems;
}

/** Frames that are probably archived come after all others, so that the others' numbers run on without a gap. */
function knownLast(ordered: readonly PlanFrame[], known: readonly string[] = []): PlanFrame[] {
  const last = new Set(known);
  return [...ordered.filter((f) => !last.has(f.key)), ...ordered.filter((f) => last.has(f.key))];
}

/** The number after a plan's last; `start` where it numbers nothing. */
export function numberAfter(plan: Pick<IntakePlan, 'frames'>, start: number): number {
  return plan.frames.reduce((next, { seq }) => Math.max(next, seq + 1), start);
}

/** The running number of each frame, in this order. */
function sequence(input: IntakeInput, ordered: readonly PlanFrame[]): number[] {
  if (input.seqBy !== 'day') return ordered.map((_, i) => input.seqStart + i);
  const next = new Map(Object.entries(input.seqOfDays ?? {}));
  return ordered.map(({ facts }) => {
    const day = facts.capture ? shootDay(facts.capture, input.dayStartHour) : input.shoot.date;
    const seq = next.get(day) ?? input.seqStart;
    next.set(day, seq + 1);
    return seq;
  });
}

/** The folder of a frame's originals: the plan's, and where it asks for it one for each card or body inside. */
export function placeIn(
  home: string,
  originals: string,
  below: readonly PatternToken[],
  facts: NameFacts,
): string {
  const inside = renderPattern(below, facts)
    .replace(/\/{2,}/g, '/')
    .replace(/^\/|\/$/g, '');
  return [home, originals, ...(inside === '' ? [] : [inside])].join('/');
}

/**
 * Names that a list by name would show in another order than that of time, told once for each folder. Compared as
 * disks list them, by code units without regard to case.
 */
function unsorted(frames: readonly PlannedFrame[], name: readonly PatternToken[]): PlanProblem[] {
  const width = seqWidth(name);
  const last = new Map<string, PlannedFrame>();
  const told = new Map<string, PlanProblem>();
  for (const frame of frames) {
    const before = last.get(frame.place);
    last.set(frame.place, frame);
    if (!before || told.has(frame.place) || collisionKey(before.name) <= collisionKey(frame.name)) continue;
    told.set(frame.place, {
      kind: 'unsorted',
      message:
        width !== null && String(frame.seq).length > width
          ? `Number ${frame.seq} is wider than {number:${width}}: “${frame.name}” stands before “${before.name}” in a list by name. Write {number:${String(frames.at(-1)!.seq).length}}.`
          : `“${frame.name}” was taken after “${before.name}” and stands before it in a list by name, in ${frame.place}. Begin the pattern with {capture:yyyyMMdd-HHmmss}, or tell names apart by {number:4}.`,
      to: frame.name,
    });
  }
  return [...told.values()];
}

/** Digits of a pattern's running number; null where it has none. */
function seqWidth(tokens: readonly PatternToken[]): number | null {
  const seq = tokens.find((token) => 'field' in token && token.field === 'number');
  return seq && 'field' in seq ? Number(seq.format || DEFAULT_SEQ_WIDTH) : null;
}

/**
 * Files that belong to no frame keep their own names, in a folder named after the card. A card that is taken in once
 * more, having been shot on since, gets a second one: nothing is overwritten, and nothing stands in the way.
 */
function placeExtras(input: IntakeInput, home: string, exists: (to: string) => boolean): PlanItem[] {
  const card = toNamePart(input.card) || 'card';
  for (let run = 1; ; run++) {
    const folder = `${home}/${input.folders.originals}/_${card}${run > 1 ? `_${run}` : ''}`;
    const claimed = new Set<string>();
    const items = input.extras.map((extra): PlanItem => {
      const to = freePlace(folder, extra.path, claimed);
      claimed.add(collisionKey(to));
      const { role, format, raw, size } = extra;
      return { from: extra.path, to, role, format, raw, size, frameKey: null };
    });
    if (run === MAX_RUNS || !items.some((item) => exists(item.to))) return items;
  }
}

/** A place of its own for a file that keeps its name: as on the card, made legal, short enough, and free. */
function freePlace(folder: string, path: string, claimed: ReadonlySet<string>): string {
  const segments = path.split('/').map(legalSegment);
  const whole = `${folder}/${segments.join('/')}`;
  const short = `${folder}/_deep/${segments.at(-1)!}`;
  const { directory, base, extension } = splitPath(whole.length <= MAX_PATH_UNITS ? whole : short);
  // What follows the last dot of an odd name may be long as well.
  const ending = extension === '' ? '' : `.${shortened(extension, 40)}`;
  const room = Math.min(MAX_NAME_BYTES, MAX_PATH_UNITS - directory.length - 1) - ending.length * 3 - 8;
  const name = shortened(base, Math.max(room, SHORTEST));
  const free = freeName(name, (other) => claimed.has(collisionKey(`${directory}/${other}${ending}`)));
  return `${directory}/${free}${ending}`;
}

/** Times that one card is taken into one shoot; above, the collision is reported. */
const MAX_RUNS = 1000;

/** By corrected instant, then in the order the camera numbered them; frames without a time come last. */
export function orderFrames(frames: readonly PlanFrame[], zoneMinutes: number): PlanFrame[] {
  return frames
    .map((frame) => ({
      frame,
      at: frame.facts.capture ? instantMillis(frame.facts.capture, zoneMinutes) : Infinity,
      directory: splitPath(frame.key).directory,
      base: frame.base,
    }))
    .sort((a, b) => (a.at === b.at ? compareDcf(a, b) : a.at < b.at ? -1 : 1))
    .map(({ frame }) => frame);
}

function nameFacts(input: IntakeInput, frame: PlanFrame | null, seq: number): NameFacts {
  return {
    shoot: input.shoot.title,
    client: input.shoot.client,
    place: input.shoot.place,
    creator: input.creator,
    card: input.card,
    capture: frame?.facts.capture ?? null,
    seq,
    original: frame?.base ?? '',
    body: frame?.facts.model ?? '',
    serial: frame?.facts.serial ?? '',
    stars: 0,
  };
}

/** The folder that a plan gives a shoot as a whole, by its own date. Throws a pattern's problem. */
export function folderOf(
  { title, date, client, place }: IntakeInput['shoot'],
  { path, creator, dayStartHour }: { path: string; creator: string; dayStartHour: number },
): string {
  const parsed = parsePattern(path);
  if (!parsed.ok) throw new Error(describePatternProblem(path, parsed.problem));
  const none = { capture: null, seq: 1, original: '', body: '', serial: '', stars: 0, card: '' };
  return renderFolder(
    parsed.tokens,
    { dayStartHour, shoot: { date } },
    { shoot: title, client, place, creator, ...none },
  );
}

/** Folders go by the shoot's day, which begins at the studio's hour; frames without a time by the shoot's date. */
export function renderFolder(
  tokens: readonly PatternToken[],
  input: { dayStartHour: number; shoot: { date: string } },
  facts: NameFacts,
): string {
  const day = facts.capture ? shootDay(facts.capture, input.dayStartHour) : input.shoot.date;
  const capture: CaptureTime = {
    local: `${day}T12:00:00`,
    millis: 0,
    offsetMinutes: null,
    correctionMillis: 0,
  };
  return renderPattern(tokens, { ...facts, capture })
    .replace(/\/{2,}/g, '/')
    .replace(/^\/|\/$/g, '');
}

/** A card's own name, made legal; what had to be changed is replaced by `_`, so nothing is left out. */
function legalSegment(segment: string): string {
  const name = legalOriginal(segment)
    .replace(/%/g, '_')
    .replace(/[. ]+$/, '_');
  // A leading dot would hide the file from its owner.
  const shown = name.startsWith('.') ? `_${name}` : name;
  return shortened(nameProblem(shown) === 'reserved' ? `_${shown}` : shown, MAX_NAME_BYTES);
}

const PROBLEM_WORDS = {
  empty: 'an empty part',
  character: 'a character that Windows, macOS or Linux refuses',
  reserved: 'a name that Windows keeps for devices',
  ending: 'a dot or blank at the end, which Windows drops',
  'too-long': 'more than 255 bytes',
} as const;

/** What is wrong with these targets, before anything happens. */
export function checkTargets(
  items: readonly { from: string; to: string }[],
  exists: (to: string) => boolean,
): PlanProblem[] {
  const problems: PlanProblem[] = [];
  const taken = new Map<string, { from: string; to: string }>();
  const folders = new Map<string, NameProblem | null>();
  for (const item of items) {
    const { from, to } = item;
    const segments = to.split('/');
    for (const [i, segment] of segments.entries()) {
      // Folders come again with every file, names once.
      let problem = folders.get(segment);
      if (problem === undefined) problem = nameProblem(segment);
      if (i < segments.length - 1) folders.set(segment, problem);
      if (!problem) continue;
      problems.push({
        kind: problem === 'too-long' ? 'too-long' : 'illegal-name',
        message: `${from} would become “${to}”, which has ${PROBLEM_WORDS[problem]}. Change the pattern or the title.`,
        from,
        to,
      });
      break;
    }
    if (to.length > MAX_PATH_UNITS) {
      problems.push({
        kind: 'too-long',
        message: `${from} would get a path of ${to.length} characters; ${MAX_PATH_UNITS} is the most that is safe everywhere. Shorten the pattern or the title.`,
        from,
        to,
      });
    }
    const key = collisionKey(to);
    const other = taken.get(key);
    if (other) {
      problems.push({
        kind: 'collision',
        message: `${other.from} and ${from} would both become “${to}”. Add {number:4} or {original} to the pattern.`,
        from,
        to,
      });
    } else taken.set(key, item);
    if (exists(to)) {
      problems.push({
        kind: 'exists',
        message: `${from} would become “${to}”, which exists already and is never overwritten. Start the numbers higher or change the title.`,
        from,
        to,
      });
    }
  }
  return problems;
}

/** What the card's own structure says: whether its folders and names follow DCF, for the card's facts. */
export function followsDcf(path: string): boolean {
  const segments = path.split('/');
  if (segments.length !== 3 || segments[0] !== 'DCIM') return false;
  return parseDcfDirectory(segments[1]!) !== null && parseDcfBase(splitPath(path).base) !== null;
}
