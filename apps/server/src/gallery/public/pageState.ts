import type { Choice } from '@arkiv/core';
import { sha256Of } from '../../disk/place';
import type { Gallery, GalleryFrame, GalleryGuest } from '../../ledger/gallery.entity';
import type { Gate } from '../galleryDoors.service';
import type { GuestState, PageState } from './pages';

/** What a gallery's page shows. */
export function pageState(
  base: string,
  { title, words, until }: Gallery,
  shown: readonly GalleryFrame[],
  forms: PageState['forms'],
  now: GuestState,
): PageState {
  const pictures = shown.map(({ key, version, name, width, height }) => ({
    ...{ key, version, name, width: width ?? 3, height: height ?? 2 },
  }));
  return { base, title, words, until, pictures, forms, now };
}

/** Hexadecimal digits of a stamp: two sets of pictures that follow each other in one gallery do not meet by chance. */
const STAMP = 12;
const stampOf = (shown: readonly GalleryFrame[]): string =>
  sha256Of(shown.map(({ key, version }) => `${key} ${version}`).join('\n')).slice(0, STAMP);

/** What one person sees of what was said: their own favourites, and everybody's choice and remarks. */
export function guestState(
  { gallery, link }: Gate,
  guest: GalleryGuest,
  shown: readonly GalleryFrame[],
  guests: readonly GalleryGuest[],
  { chosen, favourites, remarks, sent }: Choice,
): GuestState {
  const called = new Map(guests.map(({ id, name }) => [id, name]));
  const its = favourites.get(guest.id);
  const state: GuestState = {
    me: guest.name,
    rights: { ...link.rights, choose: link.rights.choose && gallery.most !== null },
    ...{ most: gallery.most, chosen: {}, favourites: [], remarks: {} },
    sent: sent && { by: called.get(sent.guestId) ?? '', at: sent.at },
    pictures: { count: shown.length, stamp: stampOf(shown) },
  };
  for (const { key, frameId } of shown) {
    const by = chosen.get(frameId);
    if (by) state.chosen[key] = called.get(by.guestId) ?? '';
    if (its?.has(frameId)) state.favourites.push(key);
    const said = remarks.get(frameId) ?? [];
    if (said.length > 0)
      state.remarks[key] = said.map(({ id, text, x, y, guestId }) => ({
        ...{ id, text, x, y, by: called.get(guestId) ?? '', mine: guestId === guest.id },
      }));
  }
  return state;
}
