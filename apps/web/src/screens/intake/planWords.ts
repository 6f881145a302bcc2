import type { MetadataTemplate, SplitPart } from '@arkiv/core';
import { bytes, many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import type { DraftPart, ShootFields } from './draft';
import type { Naming } from '../../parts/PlanDialog';

/** The shoots that a card becomes; parts without a title of their own take the first one's and their number. */
export function sharesOf(
  parts: readonly SplitPart[],
  first: ShootFields,
  titles: Readonly<Record<string, string>>,
): DraftPart[] {
  if (parts.length < 2) return [{ fields: first, part: null, extras: true }];
  return parts.map((part, i) => ({
    part,
    extras: i === 0,
    fields:
      i === 0
        ? first
        : {
            ...first,
            date: part.day ?? first.date,
            title: titles[part.keys[0]!]?.trim() || (first.title.trim() && `${first.title.trim()} ${i + 1}`),
          },
  }));
}

export function hoursOf({ day, from, to, keys }: SplitPart): string {
  const span = day && from && to ? `${mediumDay(day)}, ${from}–${to} · ` : '';
  return span + many(keys.length, 'frame');
}

export function stampWords({ mode, fields, keywords, persons = '' }: MetadataTemplate): string {
  const n = Object.values(fields).filter((text) => text !== '').length;
  const words = [
    n > 0 && many(n, 'field'),
    persons.trim() !== '' && 'persons',
    keywords.trim() !== '' && 'keywords',
  ]
    .filter(Boolean)
    .join(' and ');
  return `${words || 'nothing'}, ${mode === 'replace' ? 'over what the camera wrote' : 'only where the camera wrote nothing'}`;
}

export function driveWords(volume: Api['VolumeDto']): string {
  if (!volume.online) return 'not connected';
  if (volume.readOnly) return 'read-only';
  return `${bytes(volume.free ?? 0)} free${volume.nearlyFull ? ', nearly full' : ''}`;
}

/** Where the shoot that was made last left off, of those whose numbers are carried on where there are any. */
export function lastNumber(shoots: readonly Api['ShootDto'][]): number {
  const carried = shoots.filter((s) => s.seqBy === 'carried');
  const last = [...(carried.length > 0 ? carried : shoots)].sort((a, b) => b.createdAt - a.createdAt)[0];
  return last?.nextSeq ?? 1;
}

/** Shoots that a card may belong to: those of the nearest days first. */
export function nearest(shoots: readonly Api['ShootDto'][], date: string): Api['ShootDto'][] {
  const far = (s: Api['ShootDto']) => Math.abs(Date.parse(s.date) - Date.parse(date));
  return [...shoots].sort((a, b) => far(a) - far(b)).slice(0, NEAREST);
}

/** As many as a list shows without a search; older shoots are rarely added to. */
const NEAREST = 30;

export function fieldsOf({ title, date, client, place }: Api['ShootDto']): ShootFields {
  return { title, date, client, place };
}

export function namingOf(shoot: Api['ShootDto'], own: Naming): Naming {
  return {
    pattern: shoot.pattern,
    folders: { ...own.folders, path: shoot.folderPath, below: shoot.below },
    seqBy: shoot.seqBy,
  };
}

/**
 * Milliseconds without a key before a plan is made anew. A thousand frames are planned within one picture of the
 * screen; ten thousand take a tenth of a second and more, which would hold up every letter: they wait for a pause
 * that is longer than those between the letters of someone who types.
 */
export const planPause = (frames: number): number => (frames > 1000 ? 200 : 0);

/** What cards are called by cameras and systems, and nobody by hand: no title of a shoot. */
const NAMELESS = /^(no[ _]?name|untitled|card|sd ?card|dcim|disk|volume|usb|removable.*|[a-z]?\d*)$/i;

/**
 * A title to begin with: what the card's own folder is called, where somebody called it something; else the client of
 * the shoot that was made last. Empty where there is neither.
 */
export function proposedTitle(
  card: { card: string; frames: readonly { facts: { make: string | null } }[] },
  shoots: readonly Pick<Api['ShootDto'], 'client' | 'createdAt'>[],
): string {
  const name = card.card.replace(/[_\s]+/g, ' ').trim();
  const makes = new Set(card.frames.map(({ facts }) => facts.make?.toLowerCase()));
  if (name !== '' && !NAMELESS.test(name) && !makes.has(name.toLowerCase())) return name;
  const last = [...shoots].sort((a, b) => b.createdAt - a.createdAt).find(({ client }) => client !== '');
  return last?.client ?? '';
}

/** Why nothing can be copied yet, in the words of what is to be done; null when it can. */
export function whatIsMissing(plan: {
  title: boolean;
  problems: number;
  files: number;
  targets: number;
  tight: number;
}): string | null {
  if (plan.title) return 'To begin: give the shoot a title.';
  if (plan.problems > 0) return 'To begin: put right what is said above in red.';
  if (plan.files === 0) return 'Nothing is chosen: take at least one frame in.';
  if (plan.targets === 0) return 'To begin: choose at least one drive; two make the card safe to clear.';
  if (plan.tight > 0) return 'To begin: choose drives with room for all files.';
  return null;
}
