import { foldText } from '@arkiv/core';

interface Connection {
  function(name: string, options: { deterministic: boolean }, run: (value: unknown) => unknown): unknown;
}

/** Gives a connection `arkiv_fold`: the folding by which filters compare texts, the same as the predicate's. */
export function addFolding(connection: Connection): void {
  connection.function('arkiv_fold', { deterministic: true }, (value) =>
    value === null ? null : foldText(String(value)),
  );
}
