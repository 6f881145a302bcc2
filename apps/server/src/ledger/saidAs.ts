/** A file as it lies somewhere: its path there, bytes, and when it was changed last. */
export interface FileAs {
  path: string;
  size: number;
  mtimeMillis: number;
}

/**
 * Files of arrivals (`f`) that are as these, in SQL; its one parameter is {@link asAsked}. By the files' own facts, as paths come again: a body
 * begins at 0001 on each card, and a folder that is watched has thousands of arrivals.
 */
export const FILES_AS = `json_each(?) p CROSS JOIN arrival_file f ON f."mtimeMillis" = p.value ->> 2 AND f.size = p.value ->> 1
  AND f."from" = p.value ->> 0`;

export const asAsked = (files: readonly FileAs[]): string =>
  JSON.stringify(files.map(({ path, size, mtimeMillis }) => [path, size, mtimeMillis]));
