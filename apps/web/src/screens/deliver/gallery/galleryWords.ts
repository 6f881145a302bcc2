import { pileOfKind, type Stage } from '@arkiv/core';
import { many, momentOf } from '../../../data/format';
import { dayOf } from '../../../data/messages';
import type { Api } from '../../../data/http';

type Gallery = Api['GalleryDto'];

/** What it shows, and until when: `21 pictures · open until 4 Dec 2026`. */
export function stateWords(gallery: Gallery, now: number): string {
  const { frames, line, closedAt, until, watermark } = gallery;
  const open =
    closedAt !== null
      ? `closed ${momentOf(closedAt)}`
      : until === null
        ? 'open'
        : until > now
          ? `open until ${dayOf(until)}`
          : `was open until ${dayOf(until)}`;
  return [
    many(frames, 'picture'),
    line !== '' && `keepers: ${line}`,
    watermark !== '' && `with “${watermark}” over them`,
    open,
  ]
    .filter((words) => words !== false)
    .join(' · ');
}

/** Where the client's choice stands; empty: nothing is to be chosen. */
export function choiceWords({ most, chosen, sent }: Gallery): string {
  if (most === null && chosen.length === 0) return '';
  const words = most ? `${chosen.length} of ${most} chosen` : `${chosen.length} chosen`;
  return sent ? `${words}, sent by ${sent.by} ${momentOf(sent.at)}` : words;
}

/** What chosen frames become here. */
export function becomesWords(
  becomes: Gallery['becomes'],
  stages: readonly Pick<Stage, 'id' | 'name'>[],
): string {
  if (!becomes) return 'Nothing else happens to chosen frames.';
  const { kind } = becomes;
  const value = becomes.value as unknown;
  if (pileOfKind(kind)) return 'Chosen frames go into a pile of their own.';
  if (kind === 'stage')
    return `Chosen frames come to “${stages.find(({ id }) => id === value)?.name ?? String(value)}”.`;
  if (kind === 'stars') return `Chosen frames get ${many(Number(value), 'star')}.`;
  return `Chosen frames get the label ${String(value)}.`;
}

/** How it differs from what it would be by now; empty: in nothing. */
export function otherWords(other: Gallery['other']): string {
  if (!other) return '';
  return [
    other.fresh > 0 && `${many(other.fresh, 'picture')} new or other by now`,
    other.gone > 0 && `${many(other.gone, 'picture')} no part of it any more`,
  ]
    .filter((words) => words !== false)
    .join(', ');
}

/** What a link lets people do. */
export function rightsWords({ choose, remark, download }: Api['GuestRightsDto']): string {
  const may = [choose && 'choose', remark && 'write remarks', download && 'take files along'].filter(
    (words) => words !== false,
  );
  return may.length === 0 ? 'may look' : `may look, ${may.join(', ')}`;
}
