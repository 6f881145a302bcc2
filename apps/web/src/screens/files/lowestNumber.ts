/** Where the numbers of frames begin that are named by a pattern with the number at its end; 1 where it has none there, or nobody is named so. */
export function lowestNumber(pattern: string, frames: readonly { name: string }[]): number {
  if (!/\{(number|seq)(:\d+)?\}$/.test(pattern)) return 1;
  let lowest = Infinity;
  for (const { name } of frames) {
    const digits = /\d{1,7}$/.exec(name)?.[0];
    if (digits) lowest = Math.min(lowest, Number(digits));
  }
  return lowest === Infinity ? 1 : lowest;
}
