import type { DataSource } from 'typeorm';
import type { RecordedPart } from './recorded';

/** How rows of one table are said in a record, and read from it. */
export class RowText {
  readonly table: string;
  /** columns by which a row is known, in SQL */
  readonly order: string;
  private readonly kinds: ReadonlyMap<string, 'json' | 'boolean' | 'plain'>;

  constructor(source: DataSource, table: RecordedPart['tables'][number]) {
    const { tableName, columns, primaryColumns } = source.getMetadata(table.entity);
    this.table = tableName;
    this.order = primaryColumns.map(({ databaseName }) => `"${databaseName}"`).join(', ');
    this.kinds = new Map(
      columns
        .filter(({ databaseName }) => !table.without?.includes(databaseName))
        .map(({ databaseName, type }) => [
          databaseName,
          type === 'simple-json' ? 'json' : type === 'boolean' ? 'boolean' : 'plain',
        ]),
    );
  }

  /** A row of the database as a record says it. */
  said(row: Record<string, unknown>): Record<string, unknown> {
    const said: Record<string, unknown> = {};
    for (const [column, kind] of this.kinds) {
      const value = row[column];
      if (value === null || value === undefined) said[column] = null;
      else if (kind === 'json') said[column] = JSON.parse(value as string);
      else said[column] = kind === 'boolean' ? value === 1 : value;
    }
    return said;
  }

  /** Columns and values of a row that a record says; what is not known here is left out. */
  kept(said: Record<string, unknown>): Map<string, unknown> {
    const kept = new Map<string, unknown>();
    for (const [column, kind] of this.kinds) {
      const value = said[column];
      if (value === undefined) continue;
      if (value === null) kept.set(column, null);
      else if (kind === 'json') kept.set(column, JSON.stringify(value));
      else kept.set(column, kind === 'boolean' ? Number(value) : value);
    }
    return kept;
  }
}
