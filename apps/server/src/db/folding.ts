import { foldText, spoken } from '@arkiv/core';

interface Connection {
  function(name: string, options: { deterministic: boolean }, run: (value: unknown) => unknown): unknown;
}

/**
 * Gives a connection what filters compare texts by, the same as the predicate's: `arkiv_fold`, without case and accents, and
 * `arkiv_spoken`, what kept texts say.
 */
export function addFolding(connection: Connection): void {
  connection.function('arkiv_fold', { deterministic: true }, (value) =>
    value === null ? null : foldText(String(value)),
  );
  connection.function('arkiv_spoken', { deterministic: true }, (value) => spoken(String(value ?? '')));
}
