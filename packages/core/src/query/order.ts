import type { QueryFrame } from './fields';

/** What frames can be ordered by; frames that are equal in it stand in order of time. `found`: as they came, of found frames alone. */
export const ORDERS = ['time', 'name', 'stars', 'sharpness', 'size', 'found'] as const;
export type OrderBy = (typeof ORDERS)[number];

/** What frames can stand together under. */
export const HEADINGS = ['none', 'day', 'hour', 'body', 'stars', 'label'] as const;
export type Heading = (typeof HEADINGS)[number];

export interface FrameOrdering {
  by: OrderBy;
  /** the last, the highest or the largest first; of stars that is the rule, of the others the exception */
  reverse: boolean;
  heading: Heading;
}

export const BY_TIME: FrameOrdering = { by: 'time', reverse: false, heading: 'hour' };

/** What ordering needs to know of a frame. */
export interface OrderedFrame extends Pick<QueryFrame, 'name' | 'stars' | 'label' | 'body' | 'sharpness'> {
  /** the corrected wall clock, `YYYY-MM-DDTHH:mm:ss.SSS` */
  time: string | null;
  /** bytes of the file that shows it */
  bytes: number | null;
  /** where it stands among what was found; missing: it was not looked for */
  nth?: number;
}

/** Under which heading a frame stands: frames with one value stand together. Empty: it is not known. */
export function headingOf(heading: Heading, frame: OrderedFrame): string {
  switch (heading) {
    case 'none':
      return '';
    case 'day':
      return frame.time?.slice(0, 10) ?? '';
    case 'hour':
      return frame.time?.slice(0, 13) ?? '';
    case 'body':
      return frame.body ?? '';
    case 'stars':
      return String(frame.stars);
    case 'label':
      return frame.label ?? '';
  }
}

const BY_NAME = new Intl.Collator(undefined, { numeric: true });

/**
 * The places of frames, which are given in order of time, as they stand under their headings and in their order. The
 * most stars come first, under headings and as an order; what is not known comes last, whichever way the order goes. `rows`:
 * places of frames that stay together where time is the order; they stand where the first of each would.
 */
export function orderedPlaces(
  frames: readonly OrderedFrame[],
  { by, reverse, heading }: FrameOrdering,
  rows: readonly (readonly number[])[] | null = null,
): number[] {
  if (rows && by === 'time') {
    const firsts = rows.map(([first]) => frames[first!]!);
    return orderedPlaces(firsts, { by, reverse, heading }).flatMap((row) =>
      reverse ? [...rows[row]!].reverse() : rows[row]!,
    );
  }
  const places = frames.map((_, place) => place);
  const heads = heading === 'none' ? null : frames.map((frame) => headingOf(heading, frame));
  const compareHeads = (a: number, b: number): number => {
    const [one, other] = [heads![a]!, heads![b]!];
    if (one === other) return 0;
    if (one === '' || other === '') return one === '' ? 1 : -1;
    const way = one < other ? -1 : 1;
    if (heading === 'stars') return -way;
    return reverse && by === 'time' && (heading === 'day' || heading === 'hour') ? -way : way;
  };
  const compare = comparison(frames, by);
  const turn = reverse ? -1 : 1;
  return places.sort((a, b) => {
    if (heads) {
      const apart = compareHeads(a, b);
      if (apart !== 0) return apart;
    }
    const unknown = compare.unknown(a, b);
    if (unknown !== 0) return unknown;
    return turn * compare.known(a, b) || a - b;
  });
}

/** Two frames by their places: those of which it is not known last, and the others against each other. */
function comparison(
  frames: readonly OrderedFrame[],
  by: OrderBy,
): { unknown: (a: number, b: number) => number; known: (a: number, b: number) => number } {
  const last = (is: (frame: OrderedFrame) => boolean) => (a: number, b: number) =>
    Number(is(frames[a]!)) - Number(is(frames[b]!));
  switch (by) {
    case 'time':
      return { unknown: last(({ time }) => time === null), known: (a, b) => a - b };
    case 'name':
      return { unknown: () => 0, known: (a, b) => BY_NAME.compare(frames[a]!.name, frames[b]!.name) };
    case 'stars':
      return { unknown: () => 0, known: (a, b) => frames[b]!.stars - frames[a]!.stars };
    case 'sharpness':
      return {
        unknown: last(({ sharpness }) => sharpness === null),
        known: (a, b) => (frames[b]!.sharpness ?? 0) - (frames[a]!.sharpness ?? 0),
      };
    case 'found':
      return {
        unknown: last(({ nth }) => nth === undefined),
        known: (a, b) => (frames[a]!.nth ?? 0) - (frames[b]!.nth ?? 0),
      };
    case 'size':
      return {
        unknown: last(({ bytes }) => bytes === null),
        known: (a, b) => (frames[b]!.bytes ?? 0) - (frames[a]!.bytes ?? 0),
      };
  }
}
