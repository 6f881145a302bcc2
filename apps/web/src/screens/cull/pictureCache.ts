/** Decoded pictures held ready: three on each side and the one on screen; more get thrown out by the browser itself. */
const HELD = 8;
const held = new Map<string, Promise<HTMLImageElement>>();
const ready = new Map<string, HTMLImageElement>();

/** A decoded picture; the same element while it is held, so that showing it needs no work. */
export function decoded(url: string): Promise<HTMLImageElement> {
  const kept = held.get(url);
  if (kept) {
    held.delete(url);
    held.set(url, kept);
    return kept;
  }
  const image = new Image();
  image.src = url;
  const promise = image.decode().then(() => {
    ready.set(url, image);
    return image;
  });
  held.set(url, promise);
  promise.catch(() => held.delete(url));
  for (const oldest of held.keys()) {
    if (held.size <= HELD * 2) break;
    held.delete(oldest);
    ready.delete(oldest);
  }
  return promise;
}

/** The picture if it is decoded already: then it can be shown within the same frame of the screen. */
export const readyPicture = (url: string): HTMLImageElement | null =>
  held.has(url) ? (ready.get(url) ?? null) : null;
