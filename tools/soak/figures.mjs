// What a server takes after each day, and whether that is more at the end than near the beginning.
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { median, residentMegabytes } from '../bench/lib.mjs';

/** What the last sixth may be of the second one: a tenth more. */
export const MOST = 1.1;
const SIXTHS = 6;

/** What is taken now. `said`: bytes that the server has logged so far. */
export function sample(pid, data, said, frames) {
  const own = residentMegabytes(pid);
  const database = path.join(data, 'archive.sqlite');
  return {
    ...{ frames, memory: own.server, withOthers: own.all },
    files: readdirSync(`/proc/${pid}/fd`).length,
    database: existsSync(database) ? statSync(database).size : 0,
    ...{ said, beside: bytesBeside(data) },
  };
}

/** Bytes of the data folder that are no database, no copy of it and no preview: they should stay what they are. */
function bytesBeside(data) {
  let bytes = 0;
  for (const entry of readdirSync(data, { recursive: true, withFileTypes: true })) {
    const file = path.join(entry.parentPath, entry.name);
    const [top] = path.relative(data, file).split(path.sep);
    if (!entry.isFile() || /^(archive\.sqlite|previews|copies)/.test(top)) continue;
    bytes += statSync(file, { throwIfNoEntry: false })?.size ?? 0;
  }
  return bytes;
}

/** Days of a sixth, the first being 0. */
export function sixth(days, n) {
  return days.slice(Math.floor((days.length * n) / SIXTHS), Math.floor((days.length * (n + 1)) / SIXTHS));
}

/** How the last sixth of the days stands to the second: name, unit, both figures and their ratio. */
export function compared(days) {
  const parts = [sixth(days, 1), sixth(days, SIXTHS - 1)];
  const row = (name, unit, of) => {
    const [second, last] = parts.map(of);
    return { name, unit, second, last, ratio: second === 0 ? (last === 0 ? 1 : Infinity) : last / second };
  };
  const of = (value) => (part) => median(part.map(value));
  const growth = (value) => (part) => (value(part.at(-1)) - value(part[0])) / (part.length - 1);
  return [
    row(
      'memory of the server',
      'MB',
      of(({ now }) => now.memory),
    ),
    row(
      'memory with its processes',
      'MB',
      of(({ now }) => now.withOthers),
    ),
    row(
      'open files',
      '',
      of(({ now }) => now.files),
    ),
    row(
      'log a day',
      'bytes',
      growth(({ now }) => now.said),
    ),
    row(
      'database a frame',
      'bytes',
      (part) => growth(({ now }) => now.database)(part) / growth(({ now }) => now.frames)(part),
    ),
    row(
      'beside database and previews',
      'bytes',
      of(({ now }) => now.beside),
    ),
    ...Object.keys(days[0].took).map((name) =>
      row(
        PARTS[name],
        name === 'intake' ? 'ms a frame' : 'ms',
        of(({ took }) => 1000 * took[name]),
      ),
    ),
  ];
}

const PARTS = {
  intake: 'taking in',
  look: 'its small pictures',
  marks: 'its marks',
  find: 'twenty questions',
  hand: 'hand-off and export',
  bin: 'bin, clearing and verifying',
};
