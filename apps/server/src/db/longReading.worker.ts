// Reads what takes long in a thread of its own, with a read-only connection of its own: the server's thread, where each
// query stops everybody, never runs it. Knows no table.
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { createGzip } from 'node:zlib';
import Database from 'better-sqlite3';
import { Transfer, worker } from 'workerpool';
import { addFolding } from './folding';

/** Kilobytes of pages: what is read long is read once, and the system keeps the file's pages too. */
const CACHE = 16_384;
const open = new Map<string, Database.Database>();

function connection(file: string): Database.Database {
  const known = open.get(file);
  if (known) return known;
  const made = new Database(file, { readonly: true, fileMustExist: true });
  made.pragma(`cache_size = -${CACHE}`);
  addFolding(made);
  open.set(file, made);
  return made;
}

/**
 * The rows of a query as columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: [value …] } }`. The database itself
 * writes the JSON: 50,000 frames of thirty facts take half the time that they take as values of this thread. An
 * aggregate that goes by order keeps the subquery's (SQLite leaves out a subquery's ORDER BY for count, min, max alone). The
 * text is packed column by column: whole, with its bytes, it takes twice its own room more.
 */
async function columns(
  file: string,
  sql: string,
  parameters: unknown[],
  more: object,
  gzip: boolean,
): Promise<unknown> {
  const database = connection(file);
  const names = database
    .prepare(sql)
    .columns()
    .map(({ name }) => name);
  const arrays = names.map((name) => `json_group_array("${name}")`);
  const [count, ...texts] = database
    .prepare(`SELECT COUNT(*), ${arrays.join(', ')} FROM (${sql})`)
    .raw()
    .get(...parameters) as [number, ...string[]];
  function* parts(): Generator<string> {
    yield `${JSON.stringify({ ...more, count }).slice(0, -1)},"columns":{`;
    for (let i = 0; i < texts.length; i++) {
      yield `${i === 0 ? '' : ','}${JSON.stringify(names[i])}:${texts[i]!}`;
      // The next one's packing needs its room.
      texts[i] = '';
    }
    yield '}}';
  }
  const text = Readable.from(parts(), { objectMode: false });
  const bytes = fresh(await buffer(gzip ? text.pipe(createGzip({ level: LEVEL })) : text));
  return new Transfer(bytes, [bytes.buffer]);
}

/** Four fifths of what the highest level saves, in a fifth of its time. Most windows are on this machine. */
const LEVEL = 1;

/** Bytes in memory of their own: what is handed over takes its whole memory with it. */
const fresh = (bytes: Buffer): Uint8Array<ArrayBuffer> => new Uint8Array(bytes);

/** The rows of a query. */
const rows = (file: string, sql: string, parameters: unknown[]): unknown[] =>
  connection(file)
    .prepare(sql)
    .all(...parameters);

worker({ columns, rows });
