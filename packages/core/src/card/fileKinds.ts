import type { Detail } from '../query/fields';
import type { AssetRole } from './types';

/** Three facts of a file, each on its own: its part in a frame, its format, and whether that is a camera's raw. */
export interface FileKind {
  role: AssetRole;
  /** short, lower case: `jpeg`, `heic`, `cr3`, `mp4`; empty where it is none that we know */
  format: string;
  raw: boolean;
}

/** Pictures that are no raw, by format: their extensions (lower case, no dot). Only data. */
const PICTURES: Readonly<Record<string, readonly string[]>> = {
  jpeg: ['jpg', 'jpeg', 'jpe', 'jfif'],
  heic: ['heic', 'heif', 'hif'],
  png: ['png'],
  webp: ['webp'],
  avif: ['avif'],
  tiff: ['tif', 'tiff'],
  gif: ['gif'],
  jxl: ['jxl'],
  jp2: ['jp2', 'j2k', 'jpf'],
  bmp: ['bmp'],
};

/** Raw extensions of camera makers; each is a format of its own. Gathered from makers' and libraries' documents. */
const RAWS =
  '3fr arq arw bay bmq cap cine cr2 cr3 crw dcr dng erf fff gpr iiq k25 kdc lri mdc mef mos mrw nef nrw orf pef ptx pxn r3d raf raw rw2 rwl rwz sr2 srf srw sti x3f'.split(
    ' ',
  );

const CLIPS: Readonly<Record<string, readonly string[]>> = {
  mp4: ['mp4', 'm4v'],
  mov: ['mov', 'qt'],
  mts: ['mts', 'm2ts'],
  avi: ['avi'],
  mxf: ['mxf'],
};

const NOTES = ['wav', 'mp3'];
const SIDECARS = ['xmp'];

const KINDS: ReadonlyMap<string, FileKind> = new Map([
  ...entries('original', PICTURES),
  ...RAWS.map((extension): [string, FileKind] => [
    extension,
    { role: 'original', format: extension, raw: true },
  ]),
  ...entries('clip', CLIPS),
  ...entries('note', Object.fromEntries(NOTES.map((e) => [e, [e]]))),
  ...entries('sidecar', Object.fromEntries(SIDECARS.map((e) => [e, [e]]))),
]);

function entries(
  role: AssetRole,
  formats: Readonly<Record<string, readonly string[]>>,
): [string, FileKind][] {
  return Object.entries(formats).flatMap(([format, extensions]) =>
    extensions.map((e): [string, FileKind] => [e, { role, format, raw: false }]),
  );
}

/** What is not listed is copied all the same. */
export const UNKNOWN_KIND: FileKind = { role: 'other', format: '', raw: false };

/** The kind of file that an extension names, without regard to case. */
export function kindOfExtension(extension: string): FileKind | null {
  return KINDS.get(extension.toLowerCase()) ?? null;
}

/** Files that operating systems leave on a card: never pictures, yet copied and reported like all others. */
export const SYSTEM_NAMES: ReadonlySet<string> = new Set(['.ds_store', 'thumbs.db', 'desktop.ini']);

/** Pictures of which nothing but an embedded picture can be shown, if there is one. */
const NOT_DECODED: readonly string[] = ['jxl', 'jp2', 'bmp'];

/** Whether a file makes a frame: a camera's picture or a clip. */
export const isShot = ({ role }: Pick<FileKind, 'role'>): boolean => role === 'original' || role === 'clip';

/** Whether the picture itself can be decoded; of others there is an embedded picture, a poster, or nothing. */
export const isDecoded = ({ role, raw, format }: FileKind): boolean =>
  (role === 'original' || role === 'edit') && !raw && !NOT_DECODED.includes(format);

/** What a file's picture shows as a rule. A raw without a useful picture inside is developed: that is seen when it is opened. */
export const usualDetail = (file: FileKind): Detail =>
  file.role === 'clip' ? 'poster' : isDecoded(file) ? 'full' : 'embedded';

const NAMES: Readonly<Record<string, string>> = { jxl: 'JPEG XL', jp2: 'JPEG 2000', webp: 'WebP' };

/** A format, or several joined by `+`, as it is read: `DNG + JPEG`. */
export function formatWords(format: string): string {
  return format
    .split('+')
    .filter((part) => part !== '')
    .map((part) => NAMES[part] ?? part.toUpperCase())
    .join(' + ');
}

/** How many raws a frame has beside its other pictures. */
export type RawFact = 'none' | 'only' | 'pair';

/** The same three facts of a frame, from its files. */
export interface FrameKind {
  role: 'original' | 'clip';
  /** of its pictures and clips, the raw first, each once, joined by `+` */
  format: string;
  raw: RawFact;
}

export function frameKind(files: readonly FileKind[]): FrameKind {
  const pictures = files.filter((f) => f.role === 'original');
  const raws = pictures.filter((f) => f.raw);
  const shown = [...raws, ...pictures.filter((f) => !f.raw), ...files.filter((f) => f.role === 'clip')];
  return {
    role: pictures.length > 0 ? 'original' : 'clip',
    format: [...new Set(shown.map((f) => f.format))].join('+'),
    raw: raws.length === 0 ? 'none' : raws.length === pictures.length ? 'only' : 'pair',
  };
}

/** The rank in which files stand for their frame: what can be decoded, a raw's embedded picture, the rest, a clip. */
function rank(file: FileKind): number {
  if (file.role === 'clip') return 4;
  if (file.raw) return 2;
  if (!isDecoded(file)) return 3;
  return file.format === 'jpeg' ? 0 : 1;
}

/** The file that a frame shows itself by, or null: a JPEG first, a clip last. */
export function pictureOf<T extends FileKind>(files: readonly T[]): T | null {
  const able = files.filter(isShot);
  return able.reduce<T | null>((best, f) => (best === null || rank(f) < rank(best) ? f : best), null);
}

/** {@link pictureOf} as an SQL order over columns `role`, `raw`, `format` of the table of this alias. */
export function pictureOrder(alias: string): string {
  const plain = NOT_DECODED.map((format) => `'${format}'`).join(', ');
  return `CASE WHEN ${alias}.role = 'clip' THEN 4 WHEN ${alias}.raw THEN 2 WHEN ${alias}.format IN (${plain}) THEN 3
    WHEN ${alias}.format = 'jpeg' THEN 0 ELSE 1 END`;
}
