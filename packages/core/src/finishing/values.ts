/**
 * Finishing: what is changed of how a frame looks, without touching its file. Each value is a mark of its own, so that each is given,
 * put on many and taken back by itself. What nobody gave is absent and changes nothing.
 */
export interface Finish {
  /** quarter turns clockwise, 1…3; the first thing that is done */
  turn?: number;
  /** degrees by which the picture is turned clockwise, hundredths */
  angle?: number;
  /** what is left of it, see `cropText` */
  crop?: string;
  /** stops, hundredths */
  exposure?: number;
  /** warmer (more than 0) or cooler, in mired */
  temperature?: number;
  /** towards magenta (more than 0) or green; 100 are half a stop of green */
  tint?: number;
  contrast?: number;
  highlights?: number;
  shadows?: number;
  /** black and white, through a filter of that colour */
  mono?: Mono;
}

export const MONOS = ['plain', 'yellow', 'red', 'green'] as const;
export type Mono = (typeof MONOS)[number];
export type FinishValue = number | string;

/** In the order in which they are done, which is the order in which they are written. */
export const FINISH_FIELDS = [
  ...(['turn', 'angle', 'crop'] as const),
  ...(['exposure', 'temperature', 'tint'] as const),
  ...(['contrast', 'highlights', 'shadows', 'mono'] as const),
] as const satisfies readonly (keyof Finish)[];
export type FinishField = (typeof FINISH_FIELDS)[number];

/** Those that say what part of the picture is seen, and those that say how. */
export const SHAPE_FIELDS = ['turn', 'angle', 'crop'] as const satisfies readonly FinishField[];
export const TONE_FIELDS = FINISH_FIELDS.filter(
  (field) => !(SHAPE_FIELDS as readonly FinishField[]).includes(field),
);

/** From where to where a value goes, and the smallest step that is kept of it. */
export interface FinishRange {
  least: number;
  most: number;
  step: number;
}

/**
 * Exposure: four stops are what an eight-bit picture holds between a face and black. Temperature: 200 mired are from daylight to a
 * household lamp of 2,800 K. Angle: beyond 45° it is another quarter turn. The rest are shares of what the curve can do.
 */
export const FINISH_RANGES = {
  turn: { least: 1, most: 3, step: 1 },
  angle: { least: -45, most: 45, step: 0.01 },
  exposure: { least: -4, most: 4, step: 0.01 },
  temperature: { least: -200, most: 200, step: 1 },
  tint: { least: -100, most: 100, step: 1 },
  contrast: { least: -100, most: 100, step: 1 },
  highlights: { least: -100, most: 100, step: 1 },
  shadows: { least: -100, most: 100, step: 1 },
} as const satisfies Partial<Record<FinishField, FinishRange>>;
export type RangedField = keyof typeof FINISH_RANGES;
export const isRanged = (field: FinishField): field is RangedField => field in FINISH_RANGES;

/** A number as it is kept for a field: on a step, within its range; null where that changes nothing. */
export function keptNumber(field: RangedField, value: number): number | null {
  const { least, most, step } = FINISH_RANGES[field];
  // By hundredths, so that what is kept is the shortest number that says it.
  const on = Math.round((Math.round(value / step) * step + Number.EPSILON) * 100) / 100;
  const within = Math.min(most, Math.max(least, on));
  return within === 0 ? null : within;
}

/** Whether a value can be kept for a field. What changes nothing is not kept. */
export function isFinishValue(field: FinishField, value: unknown): value is FinishValue {
  if (field === 'crop') return typeof value === 'string' && cropOf(value) !== null;
  if (field === 'mono') return MONOS.includes(value as Mono);
  return (
    typeof value === 'number' && Number.isFinite(value) && value !== 0 && keptNumber(field, value) === value
  );
}

/** What is left of a picture: a rectangle of a shape, as large as it may be times `size`, about a point. */
export interface Crop {
  /** width to height; null: the picture's own shape */
  shape: { width: number; height: number } | null;
  /** of its middle, as shares of the turned picture's width and height */
  x: number;
  y: number;
  /** 0…1 of the largest rectangle of this shape that fits into the turned picture */
  size: number;
}

const CROP =
  /^(?:own|(\d{1,5}(?:\.\d{1,4})?):(\d{1,5}(?:\.\d{1,4})?)):(0(?:\.\d{1,4})?|1):(0(?:\.\d{1,4})?|1):(0\.\d{1,4}|1)$/;
/** Smaller than a hundredth of the side, there is nothing to be seen. */
export const LEAST_CROP = 0.01;
/** A ribbon of one to a hundred is no picture; panoramas are one to six. */
export const MOST_SHAPE = 20;

/** A crop as it is kept: `4:5:0.5:0.48:0.9`, or with `own` for the picture's own shape. Shares go by ten-thousandths. */
export function cropText({ shape, x, y, size }: Crop): string {
  const share = (value: number, least = 0) =>
    String(Math.round(Math.min(1, Math.max(least, value)) * 1e4) / 1e4);
  const number = (value: number) => String(Math.round(value * 1e4) / 1e4);
  const of = shape === null ? 'own' : `${number(shape.width)}:${number(shape.height)}`;
  return `${of}:${share(x)}:${share(y)}:${share(size, LEAST_CROP)}`;
}

/** A kept crop taken apart; null: it is none. */
export function cropOf(text: string): Crop | null {
  const found = CROP.exec(text);
  if (!found) return null;
  const [, width, height, x, y, size] = found.map(Number) as [number, number, number, number, number, number];
  const shape = found[1] === undefined ? null : { width, height };
  if (size < LEAST_CROP) return null;
  if (shape && !(shape.width / shape.height <= MOST_SHAPE && shape.height / shape.width <= MOST_SHAPE))
    return null;
  return { shape, x, y, size };
}

/** Values as a frame keeps them: `angle=-1.25,exposure=0.35`. Nothing in it needs another form in an address. Empty: none. */
export const finishText = (finish: Finish): string =>
  FINISH_FIELDS.flatMap((field) => (finish[field] === undefined ? [] : [`${field}=${finish[field]}`])).join(
    ',',
  );

/** Kept values taken apart. What nobody knows, or cannot be, is left out: another version may have written it. */
export function finishOf(text: string): Finish {
  const finish: Finish = {};
  if (text === '') return finish;
  const said = new Map(text.split(',').map((part) => part.split('=', 2) as [string, string | undefined]));
  for (const field of FINISH_FIELDS) {
    const value = said.get(field);
    if (value === undefined) continue;
    const its = isRanged(field) ? Number(value) : value;
    if (isFinishValue(field, its)) Object.assign(finish, { [field]: its });
  }
  return finish;
}

/** Kept values with another one for a field; null: without it. */
export function withFinishValue(text: string, field: FinishField, value: FinishValue | null): string {
  const finish: Record<string, FinishValue> = { ...finishOf(text) };
  if (value === null) delete finish[field];
  else finish[field] = value;
  return finishText(finish);
}

/** Raised when equal values come out as another picture: those that are kept anywhere are made anew. */
const FINISH_VERSION = 1;
/** Between the key of a picture and the values with which it is shown, in SQL too. */
export const FINISHED_BY = `~${FINISH_VERSION}:`;

/** The key of a picture that is shown with values; an empty text: as it is. */
export const finishedKey = (picture: string, finish: string): string =>
  finish === '' ? picture : `${picture}${FINISHED_BY}${finish}`;

/** The key of the picture itself, and the values with which it is shown; empty: as it is. */
export function keyParts(key: string): { picture: string; finish: string } {
  const at = key.indexOf('~');
  if (at < 0) return { picture: key, finish: '' };
  const rest = key.slice(at);
  return { picture: key.slice(0, at), finish: rest.slice(rest.indexOf(':') + 1) };
}
