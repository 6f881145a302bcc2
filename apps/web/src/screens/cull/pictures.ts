import { pictureTries } from '../../data/pictureTries';

/** Requests for pictures under way at once: with more, the one that is looked at shares the way with those that are not. */
export const AT_ONCE = 3;

/**
 * Pictures held decoded, by what they are: a full one of 24 megapixels takes 96 MB (held are the current one and its
 * direct neighbours: with a dozen the browser throws decoded ones away), a screen preview 17 MB, a small one under one.
 */
export const HELD: Readonly<Record<Kind, number>> = { full: 4, screen: 12, small: 60 };
type Kind = 'full' | 'screen' | 'small';

const kindOf = (url: string): Kind =>
  url.endsWith('/full') ? 'full' : url.endsWith('/screen') ? 'screen' : 'small';

interface Held {
  image: HTMLImageElement;
  kind: Kind;
  decoded: boolean;
}

/**
 * What a picture that nobody wants any more is told to show: that ends its request. With no address at all Chromium neither fulfils nor refuses
 * what waits for its pixels, and keeps the element for ever: four in ten of the pictures that one goes past at full speed.
 */
export const NOTHING = 'data:image/gif;base64,R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7';

/**
 * Pictures that are wanted on screen, now or soon. Whoever shows some says which, the most wanted first; what nobody
 * wants any more is not fetched to its end.
 */
export class Pictures {
  /** by address; what was wanted last stands last */
  private readonly held = new Map<string, Held>();
  /** those that could not be decoded, and after which try */
  private readonly broken = new Map<string, number>();
  private readonly wanted = new Map<unknown, readonly string[]>();
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** What one place of the screen wants from now on, instead of what it wanted before; nothing: it is gone. */
  want(who: unknown, urls: readonly string[]): void {
    if (urls.length === 0) this.wanted.delete(who);
    else this.wanted.set(who, urls);
    this.goOn();
  }

  /** The picture if it is decoded: then it can be shown within the same frame of the screen. */
  ready(url: string): HTMLImageElement | null {
    const kept = this.held.get(url);
    return kept?.decoded ? kept.image : null;
  }

  /** Whether it could not be decoded, and nothing has come since that could have brought it back. */
  failed(url: string): boolean {
    return this.broken.get(url) === pictureTries.snapshot();
  }

  /** Asks once more for what could not be decoded. */
  again(url: string): void {
    this.broken.delete(url);
    this.goOn();
  }

  /** Each place's first wish, then each one's second … */
  private order(): string[] {
    const lists = [...this.wanted.values()];
    const longest = Math.max(0, ...lists.map((list) => list.length));
    const urls = new Set<string>();
    for (let i = 0; i < longest; i++) for (const list of lists) if (list[i] !== undefined) urls.add(list[i]!);
    return [...urls];
  }

  private goOn(): void {
    const order = this.order();
    const wanted = new Set(order);
    let under = 0;
    for (const [url, its] of this.held) {
      if (its.decoded) continue;
      if (wanted.has(url)) under += 1;
      else this.giveUp(url, its);
    }
    for (const url of order) {
      const kept = this.held.get(url);
      if (kept) {
        // What is wanted is the last to go.
        this.held.delete(url);
        this.held.set(url, kept);
      } else if (under < AT_ONCE && !this.failed(url)) {
        this.begin(url);
        under += 1;
      }
    }
    this.letGo(wanted);
  }

  private begin(url: string): void {
    const image = new Image();
    image.src = url;
    const begun: Held = { image, kind: kindOf(url), decoded: false };
    const ended = (decoded: boolean): void => {
      // What was given up is no failure, and no picture.
      if (this.held.get(url) !== begun) return;
      begun.decoded = decoded;
      if (!decoded) {
        this.held.delete(url);
        this.broken.set(url, pictureTries.snapshot());
      }
      if (!this.wanted.size) return;
      this.goOn();
      this.listeners.forEach((listener) => listener());
    };
    this.held.set(url, begun);
    void image.decode().then(
      () => ended(true),
      () => ended(false),
    );
  }

  private giveUp(url: string, { image }: Held): void {
    this.held.delete(url);
    image.src = NOTHING;
  }

  private letGo(wanted: ReadonlySet<string>): void {
    const counts = { full: 0, screen: 0, small: 0 };
    for (const [url, its] of [...this.held].reverse()) {
      counts[its.kind] += 1;
      if (counts[its.kind] > HELD[its.kind] && !wanted.has(url)) this.held.delete(url);
    }
  }
}

export const pictures = new Pictures();
