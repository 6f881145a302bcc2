import { parseDcfBase, parseDcfDirectory, compareDcf, splitPath } from '../card/dcf';
import { collisionKey, nameProblem, toNamePart, type NameProblem } from '../naming/legalName';
import {
  DEFAULT_SEQ_WIDTH,
  describePatternProblem,
  parsePattern,
  renderPattern,
  type NameFacts,
  type PatternToken,
} from '../naming/pattern';
import { instantMillis, shootDay, type CaptureTime } from '../time/captureTime';
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
    problems.push({
      kind: 'no-title',
      message: 'The shoot has no title. Give it one: names and folders are made of it.',
    });
  }
  if (input.frames.length === 0 && input.extras.length === 0) {
    problems.push({ kind: 'nothing', message: 'There are no files on this card. Choose another card.' });
  }
  if (!name.ok || !folder.ok || problems.length > 0)
    return { items: [], frames: [], folders: [], problems, warnings: [], bytes: 0 };

  const ordered = knownLast(orderFrames(input.frames, input.zoneMinutes), input.known);
  const numbers = sequence(input, ordered);
  const frames: PlannedFrame[] = ordered.map((frame, i) => {
    const facts = nameFacts(input, frame, numbers[i]!);
    const home = renderFolder(folder.tokens, input, facts);
    return {
      key: frame.key,
      name: renderPattern(name.tokens, facts),
      folder: home,
      place: placeIn(home, input.folders.originals, below.ok ? below.tokens : [], facts),
      seq: facts.seq,
    };
  });
  const items: PlanItem[] = [];
  ordered.forEach((frame, i) => {
    const planned = frames[i]!;
    for (const file of frame.files) {
      const extension = splitPath(file.path).extension.toLowerCase();
      // The camera's own sidecar stays an original; `<base>.xmp` is ours.
      const suffix = file.role === 'sidecar' ? `_card.${extension}` : `.${extension}`;
      const to = `${planned.place}/${planned.name}${suffix}`;
      items.push({ from: file.path, to, role: file.role, size: file.size, frameKey: frame.key });
    }
  });
  const home =
    frames[0]?.folder ?? renderFolder(folder.tokens, input, nameFacts(input, null, input.seqStart));
  items.push(...placeExtras(input, home, exists));
  problems.push(...checkTargets(items, exists));
  return {
    items,
    frames,
    folders: [...new Set(frames.length ? frames.map((f) => f.folder) : [home])],
    problems,
    warnings: unsorted(frames.slice(0, frames.length - (input.known?.length ?? 0)), name.tokens),
    bytes: items.reduce((sum, item) => sum + item.size, 0),
  };
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
          ? `Number ${frame.seq} is wider than {seq:${width}}: “${frame.name}” stands before “${before.name}” in a list by name. Write {seq:${String(frames.at(-1)!.seq).length}}.`
          : `“${frame.name}” was taken after “${before.name}” and stands before it in a list by name, in ${frame.place}. Begin the pattern with {capture:yyyyMMdd-HHmmss}, or tell names apart by {seq:4}.`,
      to: frame.name,
    });
  }
  return [...told.values()];
}

/** Digits of a pattern's running number; null where it has none. */
function seqWidth(tokens: readonly PatternToken[]): number | null {
  const seq = tokens.find((token) => 'field' in token && token.field === 'seq');
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
    const items = input.extras.map((extra): PlanItem => {
      const place = extra.path.split('/').map(legalSegment).join('/');
      return {
        from: extra.path,
        to: `${folder}/${place}`,
        role: extra.role,
        size: extra.size,
        frameKey: null,
      };
    });
    if (run === MAX_RUNS || !items.some((item) => exists(item.to))) return items;
  }
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
  const name = segment
    .normalize('NFC')
    .replace(/[<>:"\\|?*%]/g, '_')
    .replace(/[. ]+$/, '_');
  // A leading dot would hide the file from its owner.
  const shown = name.startsWith('.') ? `_${name}` : name;
  return nameProblem(shown) === 'reserved' ? `_${shown}` : shown;
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
        message: `${other.from} and ${from} would both become “${to}”. Add {seq:4} or {original} to the pattern.`,
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
