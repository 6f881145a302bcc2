import { pictureTries } from '../../data/pictureTries';

/**
 * Pictures held: the one on screen, three ahead and two behind as large ones, and as many small ones that stand in until
 * these are there. Decoded, a large one takes some 17 MB.
 */
export const HELD = 12;

interface Held {
  image: HTMLImageElement;
  /** decoded; rejects where it cannot be, or was given up */
  whole: Promise<HTMLImageElement>;
  decoded: boolean;
}

/** By address, the one that was asked for last comes last. */
const held = new Map<string, Held>();
/** Those that could not be decoded, and after which try. */
const broken = new Map<string, number>();

/** A decoded picture; the same element while it is held, so that showing it needs no work. */
export function decoded(url: string): Promise<HTMLImageElement> {
  const kept = held.get(url) ?? begin(url);
  held.delete(url);
  held.set(url, kept);
  for (const [oldest, its] of held) {
    if (held.size <= HELD) break;
    letGo(oldest, its);
  }
  return kept.whole;
}

/** Makes a picture ready that may be looked at next; one that could not be shown is not asked for with each key. */
export function ahead(url: string): void {
  if (broken.get(url) !== pictureTries.snapshot()) decoded(url).catch(() => undefined);
}

function begin(url: string): Held {
  const image = new Image();
  image.src = url;
  const begun: Held = {
    image,
    whole: image.decode().then(() => {
      begun.decoded = true;
      return image;
    }),
    decoded: false,
  };
  // What could not be decoded is asked for anew when it is gone to; what was given up is no failure.
  begun.whole.catch(() => {
    if (held.get(url) !== begun) return;
    held.delete(url);
    broken.set(url, pictureTries.snapshot());
  });
  return begun;
}

/** What nobody looks at any more; a picture that is still on its way is not fetched to its end. */
function letGo(url: string, { image, decoded: isWhole }: Held): void {
  held.delete(url);
  if (!isWhole) image.removeAttribute('src');
}

/** The picture if it is decoded already: then it can be shown within the same frame of the screen. */
export function readyPicture(url: string): HTMLImageElement | null {
  const kept = held.get(url);
  return kept?.decoded ? kept.image : null;
}
