import { unpackColumn, type PackedColumn } from '@arkiv/core';

/** What `GET /api/shoots/:id/frames` answered, each column as its values. */
export function columnsOf<T = Record<string, unknown[]>>(answer: unknown): T {
  const { columns, count } = answer as { columns: Record<string, PackedColumn>; count: number };
  const unpacked = Object.entries(columns).map(([name, column]) => [name, unpackColumn(column, count)]);
  return Object.fromEntries(unpacked) as T;
}
