import { mayChoose } from '@arkiv/core';
import { many } from './format';
import type { Api } from './http';

/** Milliseconds before its end from which a gallery's choice is asked after: a week is what people plan in. */
const CLOSES_SOON = 7 * 24 * 60 * 60 * 1000;
const DAY = 24 * 60 * 60 * 1000;

/** How long something is open still, in words; empty: it is over, or not soon. */
function soonWords(until: number | null, now: number): string {
  if (until === null || until <= now || until - now > CLOSES_SOON) return '';
  const days = Math.ceil((until - now) / DAY);
  return days === 1 ? 'within a day' : `in ${days} days`;
}

/** That a gallery closes soon while something is left to be chosen: `It closes in 3 days, and …`; empty: it does not. */
export function closingWords(
  {
    until,
    closedAt,
    most,
    chosen,
    sent,
  }: Pick<Api['GalleryDto'], 'until' | 'closedAt' | 'most' | 'chosen' | 'sent'>,
  now: number,
): string {
  const soon = closedAt === null ? soonWords(until, now) : '';
  if (soon === '' || most === null || sent !== null || !mayChoose(chosen.length, most)) return '';
  return `It closes ${soon}, and the choice is not made.`;
}

/** What the Desk says of a gallery in which a client chooses; empty: nothing is to be done. */
export function choosingWords(
  { until, most, chosen, sent }: Omit<Api['ChoosingGalleryDto'], 'id' | 'shootId' | 'title'>,
  now: number,
): string {
  const count = most > 0 ? `${chosen} of ${most}` : many(chosen, 'picture');
  if (sent) return now - sent.at > CLOSES_SOON ? '' : `${sent.by} sent the choice: ${count}.`;
  const soon = soonWords(until, now);
  return soon === '' || !mayChoose(chosen, most) ? '' : `It closes ${soon}, and ${count} are chosen.`;
}
