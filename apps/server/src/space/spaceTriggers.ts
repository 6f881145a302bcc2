/** Something of a shoot has changed that its kept sums are made of. Its row may be going itself. */
const changed = (shoot: string): string =>
  `INSERT INTO space_shoot ("shootId", changes) SELECT id, 1 FROM shoot WHERE id IN (${shoot})
   ON CONFLICT ("shootId") DO UPDATE SET changes = changes + 1;`;
const its = (r: string): string => `SELECT ${r}."shootId"`;
const ofFile = (r: string): string => `SELECT "shootId" FROM asset WHERE id = ${r}."assetId"`;
const ofSet = (r: string): string => `SELECT "shootId" FROM delivery WHERE id = ${r}."deliveryId"`;

/** What the sums are made of, how a row leads to its shoot, and which of its columns matter; none: all do. */
const MADE_OF: readonly [table: string, shoot: (r: string) => string, columns: readonly string[]][] = [
  ['asset', its, ['shootId', 'role', 'raw', 'size', 'devices']],
  ['copy', ofFile, ['volumeId', 'assetId', 'size']],
  // The studio's rules may ask for anything of a frame.
  ['frame', its, []],
  ['handed', its, ['shootId', 'size']],
  ['delivery', its, ['shootId', 'volumeId', 'zip', 'follows']],
  ['delivery_file', ofSet, ['deliveryId', 'size']],
];

/** By these a shoot's sums are known to be old; for `UnitOfWork.trigger`. */
export const SPACE_TRIGGERS: readonly string[] = MADE_OF.flatMap(([table, shoot, columns]) => {
  const of = columns.length > 0 ? ` OF ${columns.map((column) => `"${column}"`).join(', ')}` : '';
  return [
    ['INSERT', shoot('NEW')],
    ['DELETE', shoot('OLD')],
    [`UPDATE${of}`, `${shoot('OLD')} UNION ${shoot('NEW')}`],
  ].map(
    ([event, shoots], i) =>
      `CREATE TEMP TRIGGER IF NOT EXISTS "space_${table}_${i}" AFTER ${event} ON main."${table}" BEGIN ${changed(shoots!)} END`,
  );
});
