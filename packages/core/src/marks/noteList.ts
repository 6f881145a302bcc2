import { csvText } from '../text/csv';
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
  return csvText([HEAD, ...rows]);
}

const HEAD = ['frame', 'note', '% across', '% down'];
