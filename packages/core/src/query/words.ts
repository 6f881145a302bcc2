import { foldText } from './folding';

/** Runs of letters and digits with the marks that belong to them; the joiners inside of words show nothing. */
const RUN = /[\p{L}\p{N}\p{M}\u200c\u200d]+/gu;
const JOINERS = /[\u200c\u200d]/g;
const ASCII_RUN = /[a-z0-9]+/g;
// eslint-disable-next-line no-control-regex
const ASCII = /^[\x00-\x7f]*$/;
/** Scripts that are written without blanks between words. */
const UNSPACED =
  /[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}\u30fc\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}]/u;
/** One character with its marks. */
const CHARACTER = /\P{M}\p{M}*/gu;

/** Words of a folded text in their order; of a script without blanks each character is one. */
function plain(folded: string): string[] {
  if (ASCII.test(folded)) return folded.match(ASCII_RUN) ?? [];
  const found: string[] = [];
  for (const [run] of folded.matchAll(RUN)) {
    const word = run.replace(JOINERS, '');
    if (!UNSPACED.test(word)) {
      if (word !== '') found.push(word);
      continue;
    }
    let spaced = '';
    for (const [character] of word.matchAll(CHARACTER)) {
      if (!UNSPACED.test(character)) {
        spaced += character;
        continue;
      }
      if (spaced !== '') found.push(spaced);
      spaced = '';
      found.push(character);
    }
    if (spaced !== '') found.push(spaced);
  }
  return found;
}

const unspaced = (word: string): boolean => word.codePointAt(0)! > 0xdff && UNSPACED.test(word);

/** Digits at the end of a word that begins with letters, as of a camera's name: three at least, or it is no number. */
const NUMBERED = /^[^0-9]+([0-9]{3,})$/;
const ZEROS = /^0+(?=[0-9])/;

/**
 * The words that a text is found by, each as often as it stands there: folded, and beside them what is typed for them too:
 * numbers without the zeros before them, the number of a camera’s name, and of scripts without blanks each two characters
 * that follow each other.
 */
export function indexWords(text: string): string[] {
  const words = plain(foldText(text));
  const found: string[] = [];
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!;
    found.push(word);
    const next = words[i + 1];
    if (next !== undefined && unspaced(word) && unspaced(next)) found.push(word + next);
    const last = word.charCodeAt(word.length - 1);
    if (last < 48 || last > 57) continue;
    const number = NUMBERED.exec(word)?.[1];
    if (number !== undefined) found.push(number);
    const short = (number ?? word).replace(ZEROS, '');
    if (short !== (number ?? word)) found.push(short);
  }
  return found;
}

/**
 * The words that are asked for by a text, all of which a frame must have. Characters of a script without blanks are asked for two
 * by two, one that stands alone by itself.
 */
export function askedWords(text: string): string[] {
  const words = plain(foldText(text));
  const asked: string[] = [];
  for (let i = 0; i < words.length; i++) {
    const word = words[i]!;
    if (!unspaced(word)) {
      asked.push(word);
      continue;
    }
    const next = words[i + 1];
    if (next !== undefined && unspaced(next)) asked.push(word + next);
    else if (i === 0 || !unspaced(words[i - 1]!)) asked.push(word);
  }
  return [...new Set(asked)];
}

/** How words are asked for: whole, the last one as the beginning of one, or in this order side by side. */
export const WORD_CONDITIONS = ['word', 'begins', 'phrase'] as const;
export type WordCondition = (typeof WORD_CONDITIONS)[number];

/** What is kept of values so that they are asked quickly: every word, and every value's words in their order. */
export interface Said {
  /** each word between line ends */
  words: string;
  /** a value's words between blanks, values between line ends */
  inOrder: string;
}

/** `values`: texts that belong to no other, as one keyword. */
export function saidOf(values: readonly string[]): Said {
  const words = new Set<string>();
  for (const value of values) for (const word of indexWords(value)) words.add(word);
  const inOrder = values.map((value) => ` ${plain(foldText(value)).join(' ')} `).join('\n');
  return { words: `\n${[...words].join('\n')}\n`, inOrder };
}

/** The question whether a text has words in this order side by side; none asked for: no text has them. */
function asksPhrase(text: string): (value: string) => boolean {
  const wanted = plain(foldText(text));
  if (wanted.length === 0) return () => false;
  const inOrder = ` ${wanted.join(' ')} `;
  // Most texts have none but plain letters: asked of them as they are, without being parted into words first.
  const simple = wanted.every((word) => ASCII.test(word))
    ? new RegExp(`(?:^|[^a-z0-9])${wanted.join('[^a-z0-9]+')}(?:$|[^a-z0-9])`, 'i')
    : null;
  return (value) =>
    ASCII.test(value)
      ? (simple?.test(value) ?? false)
      : ` ${plain(foldText(value)).join(' ')} `.includes(inOrder);
}

/** The question whether texts that belong to no other say certain words. */
export function asksTexts(condition: WordCondition, text: string): (values: readonly string[]) => boolean {
  if (condition === 'phrase') {
    const says = asksPhrase(text);
    return (values) => values.some(says);
  }
  const says = asksWords(condition, text);
  return (values) => says(saidOf(values));
}

/** The question whether something says certain words. What asks for no word finds nothing. */
export function asksWords(condition: WordCondition, text: string): (said: Said) => boolean {
  if (condition === 'phrase') {
    const wanted = plain(foldText(text));
    if (wanted.length === 0) return () => false;
    const inOrder = ` ${wanted.join(' ')} `;
    return (said) => said.inOrder.includes(inOrder);
  }
  const wanted = askedWords(text);
  if (wanted.length === 0) return () => false;
  const lines = wanted.map((word, i) =>
    condition === 'begins' && i === wanted.length - 1 ? `\n${word}` : `\n${word}\n`,
  );
  return ({ words }) => lines.every((line) => words.includes(line));
}
