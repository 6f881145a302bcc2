import path from 'node:path';

/** The temporary name beside the final one: hidden, with its job's id so that a restart can tell whose it is. */
export function temporaryName(finalPath: string, job: string): string {
  return path.join(path.dirname(finalPath), `.${shorten(path.basename(finalPath))}.${job}.part`);
}

/** Whether a name in a folder is a temporary file of this job. */
export function isTemporaryOf(name: string, job: string): boolean {
  return name.startsWith('.') && name.endsWith(`.${job}.part`);
}

/** Whether a name is that of a file which some program has not finished: ours, or one of those that browsers and editors use. */
export const isTemporary = (name: string): boolean =>
  /(?:\.(?:part|tmp|temp|crdownload|partial)|~)$/i.test(name);

/** Names may have 255 bytes; the dot, the job's ULID and `.part` need 33. Cut by bytes at a character. */
function shorten(name: string): string {
  let text = name;
  while (Buffer.byteLength(text) > 200) text = [...text].slice(0, -1).join('');
  return text;
}
