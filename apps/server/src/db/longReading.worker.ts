// Reads what takes long in a thread of its own, with a read-only connection of its own: the server's thread, where each
// query stops everybody, never runs it. Knows no table.
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { createGzip } from 'node:zlib';
import Database from 'better-sqlite3';
import { Transfer, worker } from 'workerpool';
import { addFolding } from './folding';
import { jsonColumns } from './jsonColumns';

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
 * The rows of a query as columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: [value …] } }`. The text is packed column by
 * column: whole, with its bytes, it takes twice its own room more.
 */
async function columns(
  file: string,
  sql: string,
  parameters: unknown[],
  more: object,
  gzip: boolean,
): Promise<unknown> {
  const { count, columns: found } = jsonColumns(connection(file), sql, parameters);
  function* parts(): Generator<string> {
    yield `${JSON.stringify({ ...more, count }).slice(0, -1)},"columns":{`;
    for (const [i, column] of found.entries()) {
      yield `${i === 0 ? '' : ','}${JSON.stringify(column.name)}:${column.json}`;
      // The next one's packing needs its room.
      column.json = '';
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
