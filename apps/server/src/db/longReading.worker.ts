// Reads what takes long in a thread of its own, with a read-only connection of its own: the server's thread, where each
// query stops everybody, never runs it. Knows no table.
import { gzipSync } from 'node:zlib';
import { ColumnPacker, type Cell } from '@arkiv/core';
import Database from 'better-sqlite3';
import { Transfer, worker } from 'workerpool';

/** Kilobytes of pages: what is read long is read once, and the system keeps the file's pages too. */
const CACHE = 16_384;
const open = new Map<string, Database.Database>();

function connection(file: string): Database.Database {
  const known = open.get(file);
  if (known) return known;
  const made = new Database(file, { readonly: true, fileMustExist: true });
  made.pragma(`cache_size = -${CACHE}`);
  open.set(file, made);
  return made;
}

/** The rows of a query as packed columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: PackedColumn } }`. */
function columns(file: string, sql: string, parameters: unknown[], more: object, gzip: boolean): unknown {
  const statement = connection(file).prepare(sql);
  const names = statement.columns().map(({ name }) => name);
  const packers = names.map(() => new ColumnPacker());
  let count = 0;
  for (const row of statement.raw().iterate(...parameters) as IterableIterator<Cell[]>) {
    count += 1;
    for (let i = 0; i < names.length; i++) packers[i]!.add(row[i]!);
  }
  const packed = names.map((name, i) => [name, packers[i]!.packed()]);
  const text = JSON.stringify({ ...more, count, columns: Object.fromEntries(packed) });
  const bytes = gzip ? fresh(gzipSync(text, { level: LEVEL })) : new TextEncoder().encode(text);
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
