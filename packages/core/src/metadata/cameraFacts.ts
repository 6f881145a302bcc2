/** Facts of a file that belong together, as they are read. */
export interface FactGroup {
  name: string;
  facts: { name: string; value: string }[];
}

/** Groups that tell of the file's place on this machine, or of the reader itself. */
const NOT_THE_CAMERAS = new Set(['System', 'ExifTool', 'SourceFile']);
/** Groups under the names that photographers know them by; others keep their own. */
const NAMES: Readonly<Record<string, string>> = {
  IFD0: 'Picture',
  ExifIFD: 'Exif',
  GPS: 'Position',
  IFD1: 'Thumbnail',
  InteropIFD: 'Exif interoperability',
};
/** What is looked for first stands first; what tells of the file alone, last. */
const FIRST = ['Exif', 'Position', 'Picture'];
/** Characters of a value that are shown: tables of a maker's own run to thousands. */
const MOST = 400;

/**
 * Everything a camera wrote into a file, by group, from the reference metadata tool's answer: `Group:TagName` → value.
 * Names are parted into words, contents that are no text are told by their size.
 */
export function cameraFacts(told: Readonly<Record<string, unknown>>): FactGroup[] {
  const groups = new Map<string, FactGroup>();
  for (const [key, value] of Object.entries(told)) {
    const at = key.indexOf(':');
    const group = at < 0 ? key : key.slice(0, at);
    if (at < 0 || NOT_THE_CAMERAS.has(group) || value === null || value === undefined) continue;
    const name = NAMES[group] ?? words(group);
    const found = groups.get(name) ?? { name, facts: [] };
    found.facts.push({ name: words(key.slice(at + 1)), value: shown(value) });
    groups.set(name, found);
  }
  const place = ({ name }: FactGroup) =>
    FIRST.includes(name) ? FIRST.indexOf(name) : name === 'File' ? 99 : 50;
  return [...groups.values()].sort((a, b) => place(a) - place(b));
}

/** `SubSecTimeOriginal` → `Sub Sec Time Original`, `ISOSpeed` → `ISO Speed`. */
const words = (name: string): string =>
  name
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/([A-Z]+)([A-Z][a-z])/g, '$1 $2')
    .replace(/_/g, ' ');

function shown(value: unknown): string {
  const text = typeof value === 'object' ? JSON.stringify(value) : String(value);
  const bytes = /^\(Binary data (\d+) bytes/.exec(text)?.[1];
  if (bytes !== undefined) return `${bytes} bytes`;
  return text.length > MOST ? `${text.slice(0, MOST)} …` : text;
}
