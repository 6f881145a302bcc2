import { bytesInWords } from '@arkiv/core';
import { isHere, type Sending } from '@arkiv/sending';

export const filesInWords = (count: number): string => (count === 1 ? '1 file' : `${count} files`);

/** How far the sending is; empty where nothing is sent. */
export function sentWords(files: readonly Sending[]): string {
  if (files.length === 0) return '';
  const here = files.filter(isHere).length;
  const there = files.filter(({ state }) => state === 'there').length;
  const failed = files.filter(({ state }) => state === 'failed').length;
  const [sent, size] = [sum(files, ({ sent }) => sent), sum(files, ({ file }) => file.size)];
  return [
    `${here} of ${filesInWords(files.length)} arrived and proven, ${bytesInWords(sent)} of ${bytesInWords(size)}`,
    ...(there > 0 ? [`${there} ${there === 1 ? 'was' : 'were'} there already`] : []),
    ...(failed > 0 ? [`${failed} ${failed === 1 ? 'is' : 'are'} not`] : []),
  ].join('; ');
}

const sum = <T>(of: readonly T[], what: (one: T) => number): number =>
  of.reduce((n, one) => n + what(one), 0);

/** Names that are said of files that are left out; more of them would say no more. */
const NAMED = 3;

/** What is said of files that were chosen and are no pictures; empty where there are none. */
export function leftOutWords(paths: readonly string[]): string {
  if (paths.length === 0) return '';
  const names = paths.slice(0, NAMED).map((path) => path.split('/').at(-1)!);
  const more = paths.length > NAMED ? `, and ${paths.length - NAMED} more` : '';
  return `Left out, being no pictures, clips or sound: ${names.join(', ')}${more}.`;
}

/** Said when somebody has said that it is all. */
export const arrivedWords = (files: number): string =>
  files === 1
    ? 'Thank you: 1 file arrived as you sent it.'
    : `Thank you: ${files} files arrived as you sent them.`;

/** 0 to 1 of the bytes that are to be sent. */
export function shareOf(files: readonly Sending[]): number {
  const size = sum(files, ({ file }) => file.size);
  return size === 0 ? 1 : sum(files, ({ sent }) => sent) / size;
}
