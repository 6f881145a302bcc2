/** Numbers and times as the browser's owner reads them. */
const whole = new Intl.NumberFormat();
const tenth = new Intl.NumberFormat(undefined, { maximumFractionDigits: 1, minimumFractionDigits: 0 });
const day = new Intl.DateTimeFormat(undefined, { dateStyle: 'full', timeZone: 'UTC' });
const shortDay = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeZone: 'UTC' });
const dayOfMonth = new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', timeZone: 'UTC' });
const month = new Intl.DateTimeFormat(undefined, { month: 'long', year: 'numeric', timeZone: 'UTC' });
const moment = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

export const count = (n: number): string => whole.format(n);
export const many = (n: number, one: string, more = `${one}s`): string =>
  `${whole.format(n)} ${n === 1 ? one : more}`;

/** Bytes in decimal units, as drives and cards are sold. */
export function bytes(n: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
  let value = n;
  let unit = 0;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit += 1;
  }
  return `${(value >= 100 || unit === 0 ? whole : tenth).format(unit === 0 ? value : value >= 100 ? Math.round(value) : value)} ${units[unit]}`;
}

export const longDay = (date: string): string => day.format(new Date(`${date}T00:00:00Z`));
export const mediumDay = (date: string): string => shortDay.format(new Date(`${date}T00:00:00Z`));
/** The form of {@link mediumDay} in the letters that date fields are told theirs by: `D MMM YYYY`. */
export const dayFormat = (): string =>
  shortDay
    .formatToParts(new Date(Date.UTC(2031, 3, 8)))
    .map(({ type, value }) => {
      if (type === 'day') return value.length > 1 ? 'DD' : 'D';
      if (type === 'month') return /^\d/.test(value) ? (value.length > 1 ? 'MM' : 'M') : 'MMM';
      return type === 'year' ? 'YYYY' : value;
    })
    .join('');
/** The day within its month: `Wed 18`. */
export const weekDay = (date: string): string => dayOfMonth.format(new Date(`${date}T00:00:00Z`));
export const monthOf = (date: string): string => month.format(new Date(`${date}T00:00:00Z`));
export const momentOf = (millis: number): string => moment.format(new Date(millis));

/** Seconds as minutes and seconds, or as hours and minutes. */
export function duration(seconds: number): string {
  if (!Number.isFinite(seconds)) return '–';
  const s = Math.max(0, Math.round(seconds));
  if (s < 60) return `${s} s`;
  if (s < 3600) return `${Math.floor(s / 60)} min ${s % 60} s`;
  return `${Math.floor(s / 3600)} h ${Math.floor((s % 3600) / 60)} min`;
}
