// Reads what takes long in a thread of its own, with a read-only connection of its own: the server's thread, where each
// query stops everybody, never runs it. Knows no table.
import Database from 'better-sqlite3';
import { Transfer, worker } from 'workerpool';

const open = new Map<string, Database.Database>();

function connection(file: string): Database.Database {
  const known = open.get(file);
  if (known) return known;
  const made = new Database(file, { readonly: true, fileMustExist: true });
  made.pragma('cache_size = -65536');
  open.set(file, made);
  return made;
}

/** The rows of a query as columns, as UTF-8 JSON: `{ …more, "count", "columns": { name: [values] } }`. */
function columns(file: string, sql: string, parameters: unknown[], more: object): unknown {
  const statement = connection(file).prepare(sql);
  const names = statement.columns().map(({ name }) => name);
  const lists: unknown[][] = names.map(() => []);
  let count = 0;
  for (const row of statement.raw().iterate(...parameters) as IterableIterator<unknown[]>) {
    count += 1;
    for (let i = 0; i < names.length; i++) lists[i]!.push(row[i]);
  }
  const text = JSON.stringify({
    ...more,
    count,
    columns: Object.fromEntries(names.map((name, i) => [name, lists[i]])),
  });
  const bytes = new TextEncoder().encode(text);
  return new Transfer(bytes, [bytes.buffer]);
}

/** The rows of a query. */
const rows = (file: string, sql: string, parameters: unknown[]): unknown[] =>
  connection(file)
    .prepare(sql)
    .all(...parameters);

worker({ columns, rows });
