import { noteOf } from './note';

/**
 * Notes to whoever edits frames, as a list that any spreadsheet opens (CSV, RFC 4180, UTF-8): the file's base name, the words, and
 * where in the upright picture they point to, in per cent of its width and height. Empty: there is nothing to say.
 */
export function noteList(frames: readonly { name: string; note: string | null }[]): string {
  const rows = frames.flatMap(({ name, note }) => {
    if (note === null) return [];
    const { words, spot } = noteOf(note);
    const share = (value: number) => String(Math.round(value * 1000) / 10);
    return [[name, words, ...(spot ? [share(spot.x), share(spot.y)] : ['', ''])]];
  });
  if (rows.length === 0) return '';
  return [HEAD, ...rows].map((row) => `${row.map(quoted).join(',')}\r\n`).join('');
}

const HEAD = ['frame', 'note', '% across', '% down'];

/** A cell that a spreadsheet would take for a formula is told to be text. */
function quoted(cell: string): string {
  const text = /^[=+\-@\t]/.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
