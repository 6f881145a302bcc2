/** A picture of the page, as the server wrote it. */
export interface Picture {
  key: string;
  version: number;
  name: string;
  /** pixels of the largest */
  width: number;
  height: number;
}

export interface Remark {
  id: number;
  text: string;
  /** where in the picture, 0 … 1; null: it is about the whole of it */
  x: number | null;
  y: number | null;
  by: string;
  mine: boolean;
}

/** What changes while one looks. */
export interface Now {
  me: string;
  rights: { choose: boolean; remark: boolean; download: boolean };
  /** how many are to be chosen, 0: any number; null: none are */
  most: number | null;
  /** keys of chosen pictures, with who did */
  chosen: Record<string, string>;
  favourites: string[];
  remarks: Record<string, Remark[]>;
  sent: { by: string; at: number } | null;
  /** tells which pictures there are by now */
  pictures: { count: number; stamp: string };
}

export interface PageState {
  base: string;
  pictures: Picture[];
  forms: { spec: number; name: string; words: string; files: number; bytes: number }[];
  now: Now;
}

export type Saying =
  | { kind: 'favourite' | 'choice'; key: string; on: boolean }
  | { kind: 'remark'; key: string; text: string; x: number | null; y: number | null }
  | { kind: 'unsay'; id: number }
  | { kind: 'sent' };

/** What it will be when a saying has been heard, so that nobody waits for the line. */
export function foreseen(now: Now, saying: Saying): Now {
  switch (saying.kind) {
    case 'favourite': {
      const others = now.favourites.filter((key) => key !== saying.key);
      return { ...now, favourites: saying.on ? [...others, saying.key] : others };
    }
    case 'choice': {
      const { [saying.key]: _, ...others } = now.chosen;
      return { ...now, sent: null, chosen: saying.on ? { ...others, [saying.key]: now.me } : others };
    }
    default:
      return now;
  }
}

/** How many more can be chosen; null: any number, or none are to be. */
export const leftOf = ({ most, chosen }: Now): number | null =>
  most ? Math.max(0, most - Object.keys(chosen).length) : null;

/** What was chosen so far, in words. */
export function chosenWords({ most, chosen, sent }: Now): string {
  const count = Object.keys(chosen).length;
  const words = most ? `${count} of ${most} chosen` : `${count} chosen`;
  return sent ? `${words} · sent by ${sent.by}` : words;
}
