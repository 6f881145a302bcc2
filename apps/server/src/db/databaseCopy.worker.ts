// Copies a database in a thread of its own: a large one takes seconds in which nothing else could be answered.
import Database from 'better-sqlite3';
import { worker } from 'workerpool';

/** A copy as of one moment, without the log, which is then read through once. Throws where either fails. */
function copy(from: string, to: string): void {
  const source = new Database(from, { readonly: true, fileMustExist: true });
  try {
    source.prepare('VACUUM INTO ?').run(to);
  } finally {
    source.close();
  }
  const made = new Database(to, { readonly: true, fileMustExist: true });
  try {
    const found = made.pragma('quick_check(1)', { simple: true });
    if (found !== 'ok') throw new Error(`the copy is damaged: ${String(found)}`);
  } finally {
    made.close();
  }
}

worker({ copy });
