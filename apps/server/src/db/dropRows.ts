import type { EntityManager } from 'typeorm';

/** Rows taken away in one transaction: some milliseconds of the writer. */
const PART = 500;

/** Takes away some rows of an owner, numbered by `seq`. Whether there are more of them. */
export async function dropRows(
  manager: EntityManager,
  table: string,
  owner: string,
  id: string,
): Promise<boolean> {
  await manager.query(
    `DELETE FROM ${table} WHERE "${owner}" = ? AND seq IN (SELECT seq FROM ${table} WHERE "${owner}" = ? LIMIT ${PART})`,
    [id, id],
  );
  const [left]: unknown[] = await manager.query(`SELECT 1 FROM ${table} WHERE "${owner}" = ? LIMIT 1`, [id]);
  return left !== undefined;
}
