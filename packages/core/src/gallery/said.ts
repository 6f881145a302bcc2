/** What people of a client say in a gallery, each on a frame but for `opened` and `sent`. */
export const SAID_KINDS = [
  'opened',
  'favourite',
  'choice',
  'remark',
  'downloaded',
  /** their choice is made */
  'sent',
] as const;
export type SaidKind = (typeof SAID_KINDS)[number];

/** Something that was said, in the order of its number. Nothing is ever taken out: what was taken back was said too. */
export interface SaidInGallery {
  /** counts up */
  id: number;
  guestId: string;
  /** null: of the gallery as a whole */
  frameId: string | null;
  kind: SaidKind;
  /** favourite, choice: whether it is one from now on; a remark: false where it was taken back */
  on: boolean;
  /** a remark's words */
  text: string | null;
  /** where in the picture, 0 … 1 from its left and its top; null: of the picture as a whole */
  x: number | null;
  y: number | null;
  /** a remark that is taken back: the number of what said it */
  of: number | null;
  /** milliseconds since 1970 UTC */
  at: number;
}

export interface Remark {
  id: number;
  guestId: string;
  text: string;
  x: number | null;
  y: number | null;
  at: number;
}

/** Where a gallery stands, by all that was said in it. */
export interface Choice {
  /** frames that are chosen, in the order in which they were, with who did */
  chosen: ReadonlyMap<string, { guestId: string; at: number }>;
  /** each person's favourites */
  favourites: ReadonlyMap<string, ReadonlySet<string>>;
  /** that stand, by frame, the oldest first */
  remarks: ReadonlyMap<string, readonly Remark[]>;
  /** when somebody last said that the choice is made; null: nobody has, or it was changed since */
  sent: { guestId: string; at: number } | null;
}

/** Characters of a remark: what one looks at beside a picture. */
export const LONGEST_REMARK = 500;
/** Characters of a person's name. */
export const LONGEST_GUEST = 60;

/** What somebody outside is called: by the name that their address is for, else by what they typed. */
export const guestName = (addressed: string, typed: string): string =>
  addressed || typed.normalize('NFC').replace(/\s+/g, ' ').trim().slice(0, LONGEST_GUEST) || 'Guest';
/** Frames that a client can be asked to choose at most: a gallery of more nobody looks through. */
export const MOST_CHOSEN = 5000;

/** What everything said comes to. `said` in its order. */
export function choiceOf(said: readonly SaidInGallery[]): Choice {
  const chosen = new Map<string, { guestId: string; at: number }>();
  const favourites = new Map<string, Set<string>>();
  const remarks = new Map<string, Remark[]>();
  let sent: Choice['sent'] = null;
  for (const { id, guestId, frameId, kind, on, text, x, y, of, at } of said) {
    if (kind === 'sent') sent = { guestId, at };
    if (frameId === null) continue;
    if (kind === 'choice') {
      if (on === chosen.has(frameId)) continue;
      if (on) chosen.set(frameId, { guestId, at });
      else chosen.delete(frameId);
      sent = null;
    } else if (kind === 'favourite') {
      const its = favourites.get(guestId) ?? new Set();
      if (on) its.add(frameId);
      else its.delete(frameId);
      favourites.set(guestId, its);
    } else if (kind === 'remark') {
      const its = remarks.get(frameId) ?? [];
      remarks.set(
        frameId,
        on ? [...its, { id, guestId, text: text ?? '', x, y, at }] : its.filter((one) => one.id !== of),
      );
    }
  }
  return { chosen, favourites, remarks, sent };
}

/** Whether one more can be chosen. `most`: how many there may be; 0: any number. */
export const mayChoose = (chosen: number, most: number): boolean => most === 0 || chosen < most;

/** Whether clients see a gallery. `now`: milliseconds since 1970 UTC. */
export const isGalleryOpen = (
  { closedAt, until }: { closedAt: number | null; until: number | null },
  now: number,
): boolean => closedAt === null && (until === null || until > now);

/** What one person of a client may do beside looking. */
export interface GuestRights {
  choose: boolean;
  remark: boolean;
  download: boolean;
}

/** What one person of a client did in a gallery, in numbers. */
export interface SaidBy {
  /** when they last came in; null: they did not since that is kept */
  openedAt: number | null;
  favourites: number;
  chosen: number;
  remarks: number;
  /** files that they took along */
  taken: number;
}

/** What each person did, by id; `frameId`: with that frame alone. `said` in its order. */
export function saidBy(said: readonly SaidInGallery[], frameId?: string): Map<string, SaidBy> {
  const all = new Map<string, SaidBy>();
  const of = (guestId: string): SaidBy => {
    const had = all.get(guestId) ?? { openedAt: null, favourites: 0, chosen: 0, remarks: 0, taken: 0 };
    all.set(guestId, had);
    return had;
  };
  const isMeant = (id: string | null) => frameId === undefined || id === frameId;
  for (const one of said) {
    if (one.kind === 'opened') of(one.guestId).openedAt = one.at;
    if (one.kind === 'downloaded' && isMeant(one.frameId)) of(one.guestId).taken += 1;
  }
  const { chosen, favourites, remarks } = choiceOf(said);
  for (const [guestId, frames] of favourites)
    of(guestId).favourites = [...frames].filter((id) => isMeant(id)).length;
  for (const [id, { guestId }] of chosen) if (isMeant(id)) of(guestId).chosen += 1;
  for (const [id, its] of remarks) if (isMeant(id)) for (const { guestId } of its) of(guestId).remarks += 1;
  return all;
}
