import { foldText, saysWords, spoken, type WordCondition } from '@arkiv/core';

interface Connection {
  function(
    name: string,
    options: { deterministic: boolean; varargs?: boolean },
    run: (...values: unknown[]) => unknown,
  ): unknown;
}

/**
 * Gives a connection what filters compare texts by, the same as the predicate's: `arkiv_fold`, without case and accents,
 * `arkiv_spoken`, what kept texts say, and `arkiv_says`, whether columns say words.
 */
export function addFolding(connection: Connection): void {
  connection.function('arkiv_fold', { deterministic: true }, (value) =>
    value === null ? null : foldText(String(value)),
  );
  connection.function('arkiv_spoken', { deterministic: true }, (value) => spoken(String(value ?? '')));

  // A query asks the same of one row after the other.
  let last = { condition: '' as unknown, text: '' as unknown, says: saysWords('word', '') };
  connection.function('arkiv_says', { deterministic: true, varargs: true }, (condition, text, ...columns) => {
    if (last.condition !== condition || last.text !== text)
      last = { condition, text, says: saysWords(condition as WordCondition, String(text)) };
    return last.says(columns) ? 1 : 0;
  });
}
