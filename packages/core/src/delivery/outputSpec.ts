import { describePatternProblem, parsePattern } from '../naming/pattern';

/** How large a finished picture is, in pixels; a smaller one is never blown up. */
export type SizeRule =
  | { by: 'long' | 'short'; pixels: number }
  /** fits into this, whichever way it stands */
  | { by: 'box'; width: number; height: number }
  /** the longer side of a print */
  | { by: 'print'; inches: number; ppi: number }
  | { by: 'whole' };

export const FORMATS = ['jpeg', 'png', 'webp', 'avif', 'tiff', 'asis'] as const;
/** `asis`: a picture's own file, byte for byte. */
export type OutputFormat = (typeof FORMATS)[number];
export const SPACES = ['srgb', 'p3', 'grey'] as const;
export type OutputSpace = (typeof SPACES)[number];
export const SHARPENINGS = ['none', 'screen', 'paper'] as const;
export type Sharpening = (typeof SHARPENINGS)[number];
export const METADATA_CHOICES = ['none', 'rights', 'butPlaces', 'all'] as const;
/** What goes along inside of the files; keywords that are not delivered never do. */
export type MetadataChoice = (typeof METADATA_CHOICES)[number];
export const WATERMARK_PLACES = [
  'middle',
  'bottom',
  'bottom left',
  'bottom right',
  'top left',
  'top right',
] as const;
export type WatermarkPlace = (typeof WATERMARK_PLACES)[number];

/** Words, or a picture, over the picture. */
export interface Watermark {
  /** the words; of a picture what it is called */
  text: string;
  /** SHA-256 of the picture, which the studio keeps; missing or null: it is words */
  picture?: string | null;
  place: WatermarkPlace;
  /** its width as a share of the picture's, in hundredths */
  size: number;
  /** 1 … 100: how much of what lies below they cover */
  strength: number;
}

/**
 * Sub-folders that files come into: for the day on which their frame was taken, or for the album that it is in. Of several albums the first in
 * their order has it, within the folders of those around it; what is in none lies beside the folders.
 */
export const OUTPUT_FOLDERS = ['none', 'day', 'album'] as const;
export type OutputFolders = (typeof OUTPUT_FOLDERS)[number];

/** How a delivered file is made from a frame. */
export interface OutputSpec {
  /** its own, and of its folder where several are made at once */
  name: string;
  size: SizeRule;
  format: OutputFormat;
  /** 1…100 for formats that lose something */
  quality: number;
  /** bytes that a file may have at most: its quality goes down until it fits; null: any */
  mostBytes: number | null;
  space: OutputSpace;
  sharpen: Sharpening;
  watermark: Watermark | null;
  /** name pattern; `{number}` runs over this delivery alone */
  pattern: string;
  metadata: MetadataChoice;
  folders: OutputFolders;
}

export const DEFAULT_OUTPUT_SPEC: OutputSpec = {
  name: 'Web 2,000 px',
  size: { by: 'long', pixels: 2000 },
  format: 'jpeg',
  quality: 88,
  mostBytes: null,
  space: 'srgb',
  sharpen: 'screen',
  watermark: null,
  pattern: '{shoot}_{number:3}',
  metadata: 'rights',
  folders: 'none',
};

/** What a studio begins with; it changes, adds and takes away as it likes. */
export const DEFAULT_OUTPUT_SPECS: readonly OutputSpec[] = [
  DEFAULT_OUTPUT_SPEC,
  {
    ...DEFAULT_OUTPUT_SPEC,
    name: 'Print, whole size',
    size: { by: 'whole' },
    quality: 95,
    sharpen: 'paper',
    metadata: 'butPlaces',
  },
  {
    ...DEFAULT_OUTPUT_SPEC,
    name: 'Finished files as they are',
    size: { by: 'whole' },
    format: 'asis',
    sharpen: 'none',
  },
];

/** Long side limits: below 64 px nothing can be judged; 65,500 is the most a JPEG can hold (ITU-T T.81: 16 bit). */
export const LONG_SIDE_RANGE = [64, 65500] as const;
/** A file of less is a thumbnail, which the quality cannot reach; above 100 MB nobody has a limit. */
export const MOST_BYTES_RANGE = [20_000, 100_000_000] as const;
/** Inches of a print's side, and what printers ask for. */
export const INCHES_RANGE = [1, 200] as const;
export const PPI_RANGE = [30, 1200] as const;
/** Characters: longer words are no watermark. */
export const LONGEST_WATERMARK = 80;
/** Specs of a studio: more nobody chooses from. */
export const MOST_SPECS = 24;

const ENDINGS: Readonly<Record<Exclude<OutputFormat, 'asis'>, string>> = {
  ...{ jpeg: 'jpg', png: 'png', webp: 'webp', avif: 'avif', tiff: 'tif' },
};

/** How a file's name ends; of one that goes as it is, as its own file's does. */
export const endingOf = (format: OutputFormat, own: string): string =>
  format === 'asis' ? own : ENDINGS[format];

/** Size in pixels of what is made of a picture, never larger than it. */
export function outputSize(width: number, height: number, rule: SizeRule): { width: number; height: number } {
  const scale = Math.min(1, scaleOf(width, height, rule));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

function scaleOf(width: number, height: number, rule: SizeRule): number {
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  switch (rule.by) {
    case 'long':
      return rule.pixels / long;
    case 'short':
      return rule.pixels / short;
    case 'print':
      return printPixels(rule.inches, rule.ppi) / long;
    case 'box':
      return Math.min(Math.max(rule.width, rule.height) / long, Math.min(rule.width, rule.height) / short);
    case 'whole':
      return 1;
  }
}

/** Pixels of a print side: inches × pixels per inch. */
export function printPixels(inches: number, ppi: number): number {
  return Math.round(inches * ppi);
}

/** A spec that says of folders what it can say now: an earlier version knew those of days alone. */
export function withFolders<S extends { byDay?: boolean; folders?: OutputFolders }>(
  kept: S,
): Omit<S, 'byDay' | 'folders'> & { folders: OutputFolders } {
  const { byDay, folders, ...spec } = kept;
  return { ...spec, folders: folders ?? (byDay ? 'day' : 'none') };
}

/** All of a spec that decides a file's bytes, and nothing of where it lies. */
export function howMade(spec: OutputSpec): Omit<OutputSpec, 'name' | 'pattern' | 'folders'> {
  const { name: _, pattern: __, folders: ___, ...how } = withFolders(spec);
  return how;
}

/** A spec as earlier versions kept it, or as it is now. */
export function readSpec(
  kept: Partial<Omit<OutputSpec, 'sharpen'>> & {
    longSide?: number;
    sharpen?: Sharpening | boolean;
    byDay?: boolean;
  },
): OutputSpec {
  const { longSide, sharpen, metadata, ...rest } = withFolders(kept);
  return {
    ...DEFAULT_OUTPUT_SPEC,
    ...rest,
    size: rest.size ?? { by: 'long', pixels: longSide ?? 2000 },
    sharpen: typeof sharpen === 'string' ? sharpen : sharpen === false ? 'none' : 'screen',
    metadata: metadata ?? DEFAULT_OUTPUT_SPEC.metadata,
  };
}

const whole = (value: unknown, [low, high]: readonly [number, number]): boolean =>
  typeof value === 'number' && Number.isInteger(value) && value >= low && value <= high;

/** What is wrong with a spec, to be said to whoever wrote it; null: nothing. */
export function specProblem(spec: OutputSpec): string | null {
  const { name, size, format, quality, mostBytes, space, sharpen, watermark, metadata, folders } = spec;
  if (name.trim() === '' || name.length > 60) return 'A spec needs a name of 1 to 60 characters.';
  const bad = sizeProblem(size);
  if (bad !== null) return bad;
  if (!FORMATS.includes(format)) return 'Nobody knows this format.';
  if (!whole(quality, [1, 100])) return 'Quality is from 1 to 100.';
  if (mostBytes !== null && !whole(mostBytes, MOST_BYTES_RANGE))
    return 'A limit of size is from 20 kB to 100 MB.';
  if (mostBytes !== null && (format === 'png' || format === 'tiff' || format === 'asis'))
    return 'A limit of size needs a format with a quality: JPEG, WebP or AVIF.';
  if (!SPACES.includes(space) || !SHARPENINGS.includes(sharpen) || !METADATA_CHOICES.includes(metadata))
    return 'Colours, sharpening or metadata are none of those that there are.';
  if (!OUTPUT_FOLDERS.includes(folders)) return 'Folders are for days, for albums, or none.';
  if (watermark !== null && !isWatermark(watermark))
    return `A watermark has words of 1 to ${LONGEST_WATERMARK} characters, a width of 5 to 100 hundredths, and a strength of 5 to 100.`;
  const pattern = parsePattern(spec.pattern);
  return pattern.ok ? null : describePatternProblem(spec.pattern, pattern.problem);
}

function sizeProblem(size: SizeRule): string | null {
  const pixels = `Sides are from ${LONG_SIDE_RANGE[0]} to ${LONG_SIDE_RANGE[1]} pixels.`;
  switch (size.by) {
    case 'long':
    case 'short':
      return whole(size.pixels, LONG_SIDE_RANGE) ? null : pixels;
    case 'box':
      return whole(size.width, LONG_SIDE_RANGE) && whole(size.height, LONG_SIDE_RANGE) ? null : pixels;
    case 'print':
      if (!(size.inches >= INCHES_RANGE[0] && size.inches <= INCHES_RANGE[1]) || !whole(size.ppi, PPI_RANGE))
        return `A print has ${INCHES_RANGE[0]} to ${INCHES_RANGE[1]} inches at ${PPI_RANGE[0]} to ${PPI_RANGE[1]} pixels each.`;
      return whole(printPixels(size.inches, size.ppi), LONG_SIDE_RANGE) ? null : pixels;
    case 'whole':
      return null;
    default:
      return 'Nobody knows this way of giving a size.';
  }
}

const isWatermark = ({ text, picture, place, size, strength }: Watermark): boolean =>
  (picture === undefined || picture === null || /^[0-9a-f]{64}$/.test(picture)) &&
  text.trim() !== '' &&
  text.length <= LONGEST_WATERMARK &&
  WATERMARK_PLACES.includes(place) &&
  whole(size, [5, 100]) &&
  whole(strength, [5, 100]);

/** What is wrong with a list of specs; null: nothing. Names differ, as folders are called after them. */
export function specsProblem(specs: readonly OutputSpec[]): string | null {
  if (specs.length === 0) return 'There must be one spec at least.';
  if (specs.length > MOST_SPECS) return `There may be ${MOST_SPECS} specs at most.`;
  const names = new Set<string>();
  for (const spec of specs) {
    const problem = specProblem(spec);
    if (problem !== null) return problem;
    const key = spec.name.trim().toLowerCase();
    if (names.has(key)) return `Two specs are called “${spec.name.trim()}”.`;
    names.add(key);
  }
  return null;
}

const FORMAT_WORDS: Readonly<Record<OutputFormat, string>> = {
  ...{ jpeg: 'JPEG', png: 'PNG', webp: 'WebP', avif: 'AVIF', tiff: 'TIFF', asis: 'the file as it is' },
};
const METADATA_WORDS: Readonly<Record<MetadataChoice, string>> = {
  none: 'no metadata',
  rights: 'creator and rights',
  butPlaces: 'all metadata but places',
  all: 'all metadata',
};

function sizeWords(size: SizeRule): string {
  const px = (n: number) => n.toLocaleString('en');
  switch (size.by) {
    case 'long':
      return `long side ${px(size.pixels)} px`;
    case 'short':
      return `short side ${px(size.pixels)} px`;
    case 'box':
      return `within ${px(size.width)} × ${px(size.height)} px`;
    case 'print':
      return `${size.inches} in at ${size.ppi} ppi, ${px(printPixels(size.inches, size.ppi))} px`;
    case 'whole':
      return 'whole size';
  }
}

/** A spec in a line: what comes out of it. */
export function specWords(spec: OutputSpec): string {
  const { format, size, quality, mostBytes, space, sharpen, watermark, metadata, folders } = spec;
  const parted = folders === 'none' ? [] : [`a folder ${folders === 'day' ? 'a day' : 'an album'}`];
  if (format === 'asis') return [`${FORMAT_WORDS.asis}, byte for byte`, ...parted].join(' · ');
  const loses = format !== 'png' && format !== 'tiff';
  return [
    FORMAT_WORDS[format],
    sizeWords(size),
    ...(loses ? [`quality ${quality}`] : []),
    ...(mostBytes === null
      ? []
      : [`at most ${mostBytes >= 1e6 ? `${mostBytes / 1e6} MB` : `${Math.round(mostBytes / 1000)} kB`}`]),
    { srgb: 'sRGB', p3: 'Display P3', grey: 'grey' }[space],
    ...(sharpen === 'none' ? [] : [`sharpened for ${sharpen}`]),
    ...(watermark === null
      ? []
      : [watermark.picture ? `the mark ${watermark.text} over it` : `“${watermark.text}” over it`]),
    METADATA_WORDS[metadata],
    ...parted,
  ].join(' · ');
}
