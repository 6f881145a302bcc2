import { DEFAULT_MESSAGES, type MessageField, type MessageKind, type MessageWords } from '@arkiv/core';
import { many, mediumDay } from './format';
import type { Api } from './http';
import { useSettings } from './live';
import { useGet } from './useGet';

type Gallery = Api['GalleryDto'];
type Link = Gallery['links'][number];

/** What the studio writes to clients, by kind. */
export function useMessageWords(): Readonly<Record<MessageKind, MessageWords>> {
  return useSettings().data?.messages ?? DEFAULT_MESSAGES;
}

export const useMessages = (shootId: string) => useGet(`/shoots/${shootId}/messages`);
export const useMailAccount = () => useGet('/mail-account');

/** A day as it stands in messages: `4 Dec 2026`. */
export const dayOf = (millis: number): string => mediumDay(new Date(millis).toISOString().slice(0, 10));

/** What the fields of a message about a gallery say to whom a link is for. */
export function fieldsOf(
  { title, until, frames, chosen, most }: Pick<Gallery, 'title' | 'until' | 'frames' | 'chosen' | 'most'>,
  { name, address, code }: Pick<Link, 'name' | 'address' | 'code'>,
  { studio, creator, shoot }: { studio: string; creator: string; shoot: string },
): Record<MessageField, string> {
  return {
    ...{ name, title, shoot, studio, creator, link: address ?? '', code: code ?? '' },
    until: until === null ? '' : dayOf(until),
    pictures: many(frames, 'picture'),
    chosen: most === null ? '' : most > 0 ? `${chosen.length} of ${most}` : many(chosen.length, 'picture'),
  };
}
