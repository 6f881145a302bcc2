import { bitsSet } from '../vision/hashes';

/**
 * How many letters must be put in, taken out, changed, or swapped with the next, to make one word of another (optimal string
 * alignment; Damerau 1964); more than `most` is told as `most + 1`.
 */
export function lettersApart(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const now = [i];
    let least = i;
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let n = Math.min(last[j]! + 1, now[j - 1]! + 1, last[j - 1]! + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        n = Math.min(n, before[j - 2]! + 1);
      now.push(n);
      least = Math.min(least, n);
    }
    if (least > most) return most + 1;
    [before, last] = [last, now];
  }
  return last[b.length]!;
}

/** Letters that may be wrong in a word: one in four, two at most; in words of three letters none. */
export const mayDiffer = (word: string): number => Math.min(2, Math.floor(word.length / 4));

/** Which letters a word has, as bits: what has other ones is not gone through letter by letter. */
function lettersOf(word: string): number {
  let letters = 0;
  for (let i = 0; i < word.length; i++) letters |= 1 << (word.charCodeAt(i) & 31);
  return letters;
}

/** The known word that was most likely meant, of those that differ in few letters the one that is there most often; null: none. */
export function meantBy(word: string, known: Iterable<{ word: string; count: number }>): string | null {
  const most = mayDiffer(word);
  if (most === 0) return null;
  const letters = lettersOf(word);
  let best: { word: string; count: number; apart: number } | null = null;
  for (const { word: other, count } of known) {
    if (count === 0 || Math.abs(other.length - word.length) > most) continue;
    // A letter that is changed is one less and one more.
    if (bitsSet(letters ^ lettersOf(other)) > 2 * most) continue;
    const apart = lettersApart(word, other, best?.apart ?? most);
    if (apart === 0 || apart > most) continue;
    if (!best || apart < best.apart || (apart === best.apart && count > best.count))
      best = { word: other, count, apart };
  }
  return best?.word ?? null;
}
