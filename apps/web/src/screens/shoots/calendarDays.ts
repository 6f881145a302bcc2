/** A day of a row: `MM-DD`, and whether it is a Saturday or Sunday. */
export interface CalendarDay {
  key: string;
  weekend: boolean;
}

const two = (n: number): string => String(n).padStart(2, '0');
const keyOf = (date: Date): string => `${two(date.getUTCMonth() + 1)}-${two(date.getUTCDate())}`;

/** The months of a year, each with 31 places: null where it has no such day. */
export function daysOfYear(year: number): { month: string; days: (CalendarDay | null)[] }[] {
  return Array.from({ length: 12 }, (_, m) => ({
    month: two(m + 1),
    days: Array.from({ length: 31 }, (_, d) => {
      const date = new Date(Date.UTC(year, m, d + 1));
      if (date.getUTCMonth() !== m) return null;
      return { key: keyOf(date), weekend: date.getUTCDay() === 0 || date.getUTCDay() === 6 };
    }),
  }));
}

/** The day that a key leads to: beside it, a month before or after, or the first or last of its month; null: no such key. */
export function dayBeside(year: number, day: string, key: string): string | null {
  const [month, date] = day.split('-').map(Number) as [number, number];
  const lastOf = (m: number): number => new Date(Date.UTC(year, m, 0)).getUTCDate();
  const inMonth = (m: number): string =>
    m < 1 || m > 12 ? day : `${two(m)}-${two(Math.min(date, lastOf(m)))}`;
  switch (key) {
    case 'ArrowRight':
    case 'ArrowLeft': {
      const to = new Date(Date.UTC(year, month - 1, date + (key === 'ArrowRight' ? 1 : -1)));
      return to.getUTCFullYear() === year ? keyOf(to) : day;
    }
    case 'ArrowDown':
      return inMonth(month + 1);
    case 'ArrowUp':
      return inMonth(month - 1);
    case 'Home':
      return `${two(month)}-01`;
    case 'End':
      return `${two(month)}-${two(lastOf(month))}`;
    default:
      return null;
  }
}
