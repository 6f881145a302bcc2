/** Milliseconds around a frame in which its neighbours in time are looked for. */
const HOUR = 3_600_000;

/** The line that finds what was taken within an hour of a corrected wall clock, `YYYY-MM-DDTHH:mm…`. */
export function nearTimeLine(time: string): string {
  const at = Date.parse(`${time.slice(0, 16)}:00Z`);
  const minute = (millis: number) => new Date(millis).toISOString().slice(0, 16);
  return `${minute(at - HOUR)}..${minute(at + HOUR)} `;
}
