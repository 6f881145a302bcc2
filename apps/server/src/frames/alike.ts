/** Files looked at that are as a new one: of a picture that lies there in a hundred copies, which one of them moved is nobody's question. */
export const MOST_ALIKE = 20;

/** Files that are as others by length and both ends, by these; of each no more than {@link MOST_ALIKE}. */
export function byEnds<T extends { ends: string | null }>(files: readonly T[]): Map<string, T[]> {
  const alike = new Map<string, T[]>();
  for (const file of files) {
    if (file.ends === null) continue;
    const some = alike.get(file.ends) ?? [];
    if (some.length < MOST_ALIKE) some.push(file);
    alike.set(file.ends, some);
  }
  return alike;
}
