import type { FindIndex } from './findIndex';

/** How many frames were taken on the days of a year, by their corrected wall clocks; and which years there are. */
export interface FramesADay {
  /** the first first */
  years: number[];
  /** by day, `MM-DD` */
  days: Record<string, number>;
}

/** Counts all frames that are here, in one go over their times. */
export function framesADay(index: FindIndex, year: number): FramesADay {
  const { values } = index.measured.taken;
  const years = new Set<number>();
  const counts = new Map<number, number>();
  let [its, known] = [0, 0];
  index.all().each((n) => {
    const taken = values[n]!;
    if (Number.isNaN(taken)) return;
    const day = Math.floor(taken / 1e4);
    // Frames of one year follow each other.
    if (day < known || day >= known + 10_000) {
      its = Math.floor(day / 10_000);
      known = its * 10_000;
      years.add(its);
    }
    if (its === year) counts.set(day, (counts.get(day) ?? 0) + 1);
  });
  const days = [...counts]
    .sort(([a], [b]) => a - b)
    .map(([day, count]) => {
      const text = String(day % 10_000).padStart(4, '0');
      return [`${text.slice(0, 2)}-${text.slice(2)}`, count] as const;
    });
  return { years: [...years].sort((a, b) => a - b), days: Object.fromEntries(days) };
}
