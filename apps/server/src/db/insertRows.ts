import type { EntityManager, EntityTarget, ObjectLiteral } from 'typeorm';

/**
 * Writes many new rows of one table in one statement with one parameter, their values as JSON. An insert of the mapper
 * binds each value by itself: three hundred files of an intake held the server's thread for 279 ms. Columns that no row names get the table's own default. Not for columns of bytes.
 */
export async function insertRows<T extends ObjectLiteral>(
  manager: EntityManager,
  table: EntityTarget<T>,
  rows: readonly Partial<T>[],
): Promise<void> {
  if (rows.length === 0) return;
  const { driver } = manager.connection;
  const { columns, tableName } = manager.connection.getMetadata(table);
  const named = columns.filter(({ propertyName: name }) => rows.some((row) => row[name] !== undefined));
  const values = rows.map((row) =>
    named.map((column) => driver.preparePersistentValue(row[column.propertyName], column) as unknown),
  );
  const names = named.map(({ databaseName }) => `"${databaseName}"`).join(', ');
  const each = named.map((_, i) => `value ->> ${i}`).join(', ');
  await manager.query(`INSERT INTO "${tableName}" (${names}) SELECT ${each} FROM json_each(?)`, [
    JSON.stringify(values),
  ]);
}
