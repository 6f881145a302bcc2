/** The day of a moment where this machine stands, YYYY-MM-DD. */
export function localDay(millis: number): string {
  const at = new Date(millis);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
}
