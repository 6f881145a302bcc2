import { bytes, many } from '../../data/format';
import type { Api } from '../../data/http';

type Sent = Api['SentSetDto'];

/** What is known of a set that was sent: never more than was proven. */
export function sentWords(sent: Sent): string {
  const { files, arrived, failed, carried, confirmedAt, finishedAt, frames, older } = sent;
  const of = frames === null ? many(files, 'file') : `${many(frames, 'frame')}, ${many(files, 'file')}`;
  const what = older ? `as it was then, ${of}` : of;
  if (finishedAt === null) return `${what}: ${arrived} there so far`;
  if (failed > 0 || arrived < files)
    return `${older ? 'as it was then, ' : ''}${arrived} of ${of} arrived, ${files - arrived} did not`;
  if (!carried) return `${what}, ${bytes(sent.bytes)}: all read back there, and the same`;
  return confirmedAt === null
    ? `${what}: handed to sync, arrival not proven`
    : `${what}: handed to sync, and said to have arrived`;
}

/** Frames by the ends of their names, as somebody types them. */
export function namesIn(
  text: string,
  names: readonly string[],
  ids: readonly string[],
): { ids: string[]; unknown: string[] } {
  const found = new Set<string>();
  const unknown: string[] = [];
  for (const end of text.split(/[\s,;]+/).filter(Boolean)) {
    const its = names.flatMap((name, i) => (name.endsWith(end) ? ids[i]! : []));
    if (its.length === 0) unknown.push(end);
    for (const id of its) found.add(id);
  }
  return { ids: [...found], unknown };
}

export const lineOfNames = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ');
