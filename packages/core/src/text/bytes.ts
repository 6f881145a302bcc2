/**
 * Bytes as people outside read them, in thousands (SI): `108 kB`, `2.5 MB`, `25 MB`, `2.0 GB`, `64 GB`; one digit behind the point below ten.
 * Pages for people outside are written in English, wherever they are read.
 */
export function bytesInWords(bytes: number): string {
  if (bytes < 1e6) return `${bytes === 0 ? 0 : Math.max(1, Math.round(bytes / 1e3))} kB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
  return `${(bytes / 1e9).toFixed(bytes < 1e10 ? 1 : 0)} GB`;
}
