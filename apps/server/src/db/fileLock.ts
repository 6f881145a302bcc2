import Database from 'better-sqlite3';

/** Milliseconds between two tries, and how often it is tried: what is done under it takes milliseconds. */
const PAUSE = 20;
const TRIES = 500;

/**
 * Does something while nobody else does the same, in this process or another. The lock is SQLite's on a file of its own: the system gives
 * it back when its process ends. Rejects where it is not had within ten seconds.
 */
export async function underLock<T>(lockFile: string, work: () => Promise<T>): Promise<T> {
  // Waiting asynchronously: whoever has it may be in this process.
  const lock = new Database(lockFile, { timeout: 0 });
  try {
    for (let tried = 0; ; tried++) {
      try {
        lock.exec('BEGIN EXCLUSIVE');
        break;
      } catch (error) {
        if ((error as { code?: string }).code !== 'SQLITE_BUSY' || tried >= TRIES) throw error;
        await new Promise((resolve) => setTimeout(resolve, PAUSE));
      }
    }
    return await work();
  } finally {
    lock.close();
  }
}
