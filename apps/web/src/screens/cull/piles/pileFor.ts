interface Named {
  name: string;
}

/** The pile that typed words mean: the one of that name, else the only one whose name begins so; null: none. */
export function pileFor<P extends Named>(text: string, piles: readonly P[]): P | null {
  const wanted = text.trim().toLowerCase();
  if (wanted === '') return null;
  const same = piles.find(({ name }) => name.toLowerCase() === wanted);
  const begins = piles.filter(({ name }) => name.toLowerCase().startsWith(wanted));
  return same ?? (begins.length === 1 ? begins[0]! : null);
}
