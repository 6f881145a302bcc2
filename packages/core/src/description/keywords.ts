/** Characters of a keyword at most: far more than any word, or path of words, that somebody types. */
const LONGEST = 1000;

/** One line without blanks around it and with single ones inside, as it comes back out of a sidecar. */
export const isKeyword = (value: unknown): value is string =>
  typeof value === 'string' && value !== '' && value.length <= LONGEST && value === tidy(value);

/** A keyword as it is kept; empty: there is none. */
export const tidy = (text: string): string => text.trim().replace(/\s+/g, ' ').slice(0, LONGEST).trimEnd();

/** What tells two keywords apart: not upper and lower case. */
export const keywordKey = (word: string): string => word.toLowerCase();

/** Whether a keyword is among some, in whatever case. */
export const hasKeyword = (words: readonly string[], word: string): boolean =>
  words.some((its) => keywordKey(its) === keywordKey(word));

/** Whether a keyword is among those that are kept joined, in whatever case. */
export const isJoinedIn = (joined: string, word: string): boolean =>
  joined !== '' && `\n${keywordKey(joined)}\n`.includes(`\n${keywordKey(word)}\n`);

/** Keywords that are kept joined, in their order. */
export const keywordsIn = (joined: string): string[] => (joined === '' ? [] : joined.split('\n'));

/** Keywords as they are kept joined: each once, without regard to case, as it was written first. */
export function joinedKeywords(words: readonly string[]): string {
  const seen = new Set<string>();
  return words
    .map(tidy)
    .filter((word) => {
      const key = keywordKey(word);
      if (word === '' || seen.has(key)) return false;
      seen.add(key);
      return true;
    })
    .join('\n');
}
