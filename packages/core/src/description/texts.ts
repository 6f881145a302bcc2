import { DESCRIPTION_FIELDS, type Description, type DescriptionField } from './description';

/** The texts of a description that are kept together: all but the caption, which is filtered by and shown in Cull. */
export type TextField = Exclude<DescriptionField, 'caption'>;
export const TEXT_FIELDS = Object.keys(DESCRIPTION_FIELDS).filter(
  (field): field is TextField => field !== 'caption',
);

export type Texts = Partial<Record<TextField, string>>;

/** Characters of a text at most: a sidecar, which holds it, is read up to four times as many bytes. */
const LONGEST = 1_000_000;

/** A text as it is kept: without blanks around it, lines ended by `\n`; null: nothing is said. */
export const saidIn = (text: string): string | null =>
  text.replace(/\r\n?/g, '\n').trim().slice(0, LONGEST).trimEnd() || null;

export const isSaid = (value: unknown): value is string =>
  typeof value === 'string' && value === saidIn(value);

/** Bytes from which programs that know only the old form of captions (IIM 4.2, dataset 2:120) show them cut. */
const OLD_LIMIT = 2000;

/** Whether a caption is longer than old programs read; nothing is cut. */
export function isLong(caption: string): boolean {
  let bytes = 0;
  for (const char of caption) {
    const code = char.codePointAt(0)!;
    bytes += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return bytes > OLD_LIMIT;
}

/** Texts as they are kept with a frame: JSON of those that say something, always in one order; empty: none does. */
export function keptTexts(texts: Readonly<Partial<Record<TextField, string | null>>>): string {
  const said = TEXT_FIELDS.flatMap((field) => (texts[field] ? [[field, texts[field]] as const] : []));
  return said.length === 0 ? '' : JSON.stringify(Object.fromEntries(said));
}

/** Texts that many frames share are read once. The limit is what a large shoot may hold of different ones. */
const MOST_READ = 20_000;
const read = new Map<string, Readonly<Texts>>();

/** The texts that are kept with a frame. */
export function textsIn(kept: string): Readonly<Texts> {
  if (kept === '') return {};
  let texts = read.get(kept);
  if (!texts) {
    if (read.size >= MOST_READ) read.clear();
    read.set(kept, (texts = Object.freeze(JSON.parse(kept) as Texts)));
  }
  return texts;
}

/** What kept texts say, without what they are about: what text is looked for in. */
export const spoken = (kept: string): string => Object.values(textsIn(kept)).join('\n');

/** The texts of a description. */
export const textsOf = (description: Readonly<Description>): Texts =>
  Object.fromEntries(
    TEXT_FIELDS.flatMap((field) => {
      const text = saidIn(description[field] ?? '');
      return text === null ? [] : [[field, text]];
    }),
  );
