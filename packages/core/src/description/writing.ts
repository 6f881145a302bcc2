import {
  markOf,
  textKind,
  wordChanges,
  type MarkKind,
  type Marks,
  type MarkValue,
  type WordSet,
  keywordKind,
  personKind,
} from '../marks/marks';
import type { NameFacts } from '../naming/pattern';
import { DESCRIPTION_FIELDS, type DescriptionField } from './description';
import { keywordsIn } from './keywords';
import { keywordsOf, templateSays, type MetadataTemplate } from './template';
import { saidIn, type TextField } from './texts';

/** The kind of the mark that holds a text field of a description. */
export const fieldKind = (field: DescriptionField): MarkKind =>
  field === 'caption' ? 'caption' : textKind(field satisfies TextField);

/** What a frame says in a field. */
export const fieldOf = (marks: Readonly<Marks>, field: DescriptionField): string | null =>
  markOf(marks, fieldKind(field)) as string | null;

/** How what is written goes with what is there: in its place, after it, or only where nothing is. */
export type WriteWay = 'replace' | 'add' | 'fill';

/** What a field says after something was written into it. */
export function written(before: string | null, typed: string, way: WriteWay): string | null {
  const text = saidIn(typed);
  if (before === null || way === 'replace') return text;
  if (way === 'fill' || text === null) return before;
  // A caption of several lines goes on in a line of its own.
  return saidIn(`${before}${before.includes('\n') || text.includes('\n') ? '\n' : ' '}${text}`);
}

/** A frame, as far as it is described. */
export interface Describable {
  id: string;
  marks: Readonly<Marks>;
}

/** One mark that is to be set. */
export interface FrameChange {
  id: string;
  field: MarkKind;
  to: MarkValue;
}

/** What writing a text into a field of frames changes; a frame that says so already is left out. */
export function writeField(
  frames: readonly Describable[],
  field: DescriptionField,
  typed: string,
  way: WriteWay,
): FrameChange[] {
  return frames.flatMap(({ id, marks }) => {
    const before = fieldOf(marks, field);
    const to = written(before, typed, way);
    return to === before ? [] : [{ id, field: fieldKind(field), to }];
  });
}

/** What makes a frame's words those that are typed, parted by commas: what is not among them goes. */
export function writeWords({ id, marks }: Describable, set: WordSet, typed: string): FrameChange[] {
  const to = keywordsOf(typed).join('\n');
  return wordChanges(set, marks[set], to).map(({ kind, to: given }) => ({ id, field: kind, to: given }));
}

/** What frames say in a field, together. */
export interface Together {
  /** what all of them say; null: nothing, or they differ */
  text: string | null;
  /** how many say something else than most of them; 0: all say the same */
  different: number;
}

export function together(texts: readonly (string | null)[]): Together {
  const counts = new Map<string | null, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  if (counts.size <= 1) return { text: texts[0] ?? null, different: 0 };
  return { text: null, different: texts.length - Math.max(...counts.values()) };
}

/**
 * What a template would change on frames that are here. `fill` leaves what a frame says already; keywords and persons come
 * to those that are there, in both ways.
 */
export function applyTemplate(
  frames: readonly (Describable & { facts: NameFacts })[],
  template: Pick<MetadataTemplate, 'fields' | 'keywords' | 'persons'>,
  way: 'replace' | 'fill',
): FrameChange[] {
  return frames.flatMap((frame) => {
    const { id, marks } = frame;
    const { texts, keywords, persons } = templateSays(template, frame.facts);
    const words: FrameChange[] = [...keywords.map(keywordKind), ...persons.map(personKind)]
      .filter((field) => markOf(marks, field) !== true)
      .map((field) => ({ id, field, to: true }));
    return [
      ...(Object.keys(DESCRIPTION_FIELDS) as DescriptionField[]).flatMap((field) =>
        texts[field] === undefined ? [] : writeField([frame], field, texts[field], way),
      ),
      ...words,
    ];
  });
}

/** What is looked for in texts, and what comes in its place. */
export interface Replacement {
  find: string;
  /** nothing: what is found is taken out */
  by: string;
  /** upper and lower case count */
  exactCase: boolean;
  /** not within a longer word */
  wholeWords: boolean;
}

/** Letters, marks and digits of any script are parts of a word. */
const PART_OF_WORD = String.raw`[\p{L}\p{M}\p{N}]`;

/** What finds; null: there is nothing to find. What is looked for is text, not a pattern. */
function finder({ find, exactCase, wholeWords }: Replacement): RegExp | null {
  if (find === '') return null;
  const text = find.replace(/[\\^$.*+?()[\]{}|/]/g, String.raw`\$&`);
  const whole = wholeWords ? `(?<!${PART_OF_WORD})${text}(?!${PART_OF_WORD})` : text;
  return new RegExp(whole, exactCase ? 'gu' : 'giu');
}

/**
 * What find and replace changes in some fields of frames, and in their keywords and persons where these are among them. A
 * keyword that becomes another one goes, and the other comes; one that becomes nothing goes.
 */
export function replaceIn(
  frames: readonly Describable[],
  fields: readonly (DescriptionField | 'keywords' | 'persons')[],
  replacement: Replacement,
): FrameChange[] {
  const found = finder(replacement);
  if (!found) return [];
  const replaced = (text: string) => text.replace(found, () => replacement.by);
  return frames.flatMap(({ id, marks }) =>
    fields.flatMap((field): FrameChange[] => {
      if (field !== 'keywords' && field !== 'persons') {
        const before = fieldOf(marks, field);
        const to = before === null ? null : saidIn(replaced(before));
        return to === before ? [] : [{ id, field: fieldKind(field), to }];
      }
      const kind = field === 'keywords' ? keywordKind : personKind;
      return keywordsIn(marks[field]).flatMap((word) => {
        const to = replaced(word).trim().replace(/\s+/g, ' ');
        if (to === word) return [];
        const gone: FrameChange = { id, field: kind(word), to: false };
        return to === '' ? [gone] : [gone, { id, field: kind(to), to: true }];
      });
    }),
  );
}
