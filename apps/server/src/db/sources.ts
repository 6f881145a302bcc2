import path from 'node:path';
import { DataSource } from 'typeorm';
import type { Disk } from '../disk/disk';
import type { Clock } from '../system/clock';
import { addFolding } from './folding';
import { MIGRATIONS } from './migrations';
import { ArkivError } from '@arkiv/core';

export const WRITE_SOURCE = Symbol('WRITE_SOURCE');
export const READ_SOURCE = Symbol('READ_SOURCE');

/** The classes of all tables; each module names its own, and the application brings them here. */
export const ENTITIES = Symbol('ENTITIES');
// eslint-disable-next-line @typescript-eslint/no-unsafe-function-type
export type Entities = Function[];

export const databaseFile = (dataDir: string): string => path.join(dataDir, 'archive.sqlite');

interface SqliteConnection {
  pragma(text: string, options?: { simple: boolean }): unknown;
  function(
    name: string,
    options: { deterministic: boolean; varargs?: boolean },
    run: (...values: unknown[]) => unknown,
  ): void;
}

/**
 * Kilobytes of pages that a connection keeps: for reading the upper levels of all indexes of a million frames, and then
 * some; writing touches a few leaves at a time.
 */
const CACHE = { read: 49_152, write: 24_576 } as const;

function prepare(connection: SqliteConnection, cache: number): void {
  connection.pragma(`cache_size = -${cache}`);
  addFolding(connection);
}

/**
 * Opens the archive for writing: write-ahead log, `synchronous = FULL` (NORMAL may lose the last commits at a
 * power cut; FULL costs about 0.1 ms a commit), migrations forward only with a copy of the database before them.
 */
export async function openWriteSource(
  file: string,
  disk: Disk,
  clock: Clock,
  entities: Entities,
): Promise<DataSource> {
  await disk.makeFolders(path.dirname(file));
  const source = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities,
    migrations: MIGRATIONS,
    migrationsRun: false,
    synchronize: false,
    prepareDatabase: (connection: SqliteConnection) => {
      connection.pragma('journal_mode = WAL');
      connection.pragma('synchronous = FULL');
      connection.pragma('foreign_keys = ON');
      prepare(connection, CACHE.write);
    },
  });
  await source.initialize();
  try {
    await migrate(source, file, clock);
  } catch (error) {
    await source.destroy();
    throw error;
  }
  return source;
}

export async function openReadSource(file: string, entities: Entities): Promise<DataSource> {
  const source = new DataSource({
    type: 'better-sqlite3',
    database: file,
    readonly: true,
    entities,
    synchronize: false,
    prepareDatabase: (connection: SqliteConnection) => prepare(connection, CACHE.read),
  });
  return source.initialize();
}

async function migrate(source: DataSource, file: string, clock: Clock): Promise<void> {
  const known = MIGRATIONS.map((M) => new M().name);
  const tables: unknown[] = await source.query(`SELECT name FROM sqlite_master WHERE name = 'migrations'`);
  const applied: { name: string }[] = tables.length
    ? await source.query('SELECT name FROM migrations ORDER BY id')
    : [];
  const stranger = applied.find((m) => !known.includes(m.name));
  if (stranger)
    throw new ArkivError('archive.newer', { found: stranger.name, known: known.at(-1) ?? 'none' });
  if (applied.length === known.length) return;
  if (applied.length > 0) {
    const copy = `${file}.before-${known.at(-1)}-${clock.now()}`;
    await source.query(`VACUUM INTO '${copy.replace(/'/g, "''")}'`);
  }
  await source.runMigrations({ transaction: 'each' });
}
