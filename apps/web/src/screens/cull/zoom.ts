/** Screen pixels for one pixel of the frame. 1 is 100 %. */
export const SCALES = [0.5, 1, 2] as const;
/** How much a notch of the wheel goes closer. */
const NOTCH = 1.25;
/** Nothing is seen beyond: a pixel is 8 of the screen's. */
export const CLOSEST = 8;

/** How closely pictures are looked at, and where; the same for the next frame. */
export interface Zoom {
  /** screen pixels for one pixel of the frame; null: the whole frame as large as it fits */
  scale: number | null;
  /** what lies in the middle, as shares of the frame */
  x: number;
  y: number;
}

export const WHOLE: Zoom = { scale: null, x: 0.5, y: 0.5 };

/** Pixels. */
export interface Size {
  width: number;
  height: number;
}

/** The largest scale at which all of a frame is seen; `ratio`: device pixels for one of the page's. */
export const fitScale = (frame: Size, room: Size, ratio: number): number =>
  Math.min((room.width * ratio) / frame.width, (room.height * ratio) / frame.height);

/** Where a frame lies in its place on screen, in the page's pixels. */
export interface Placed extends Size {
  left: number;
  top: number;
}

/** A frame at a zoom: never more beside it than its size makes, as paper is moved below a loupe. */
export function placed(frame: Size, room: Size, zoom: Zoom, ratio: number): Placed {
  const scale = zoom.scale ?? fitScale(frame, room, ratio);
  const [width, height] = [(frame.width * scale) / ratio, (frame.height * scale) / ratio];
  const along = (size: number, space: number, share: number) =>
    size <= space ? (space - size) / 2 : Math.min(0, Math.max(space - size, space / 2 - share * size));
  return {
    width,
    height,
    left: along(width, room.width, zoom.x),
    top: along(height, room.height, zoom.y),
  };
}

/** What of a frame lies in the middle of its place: where it was pushed to an edge, what is seen there. */
export function middle(frame: Size, room: Size, zoom: Zoom, ratio: number): { x: number; y: number } {
  const { left, top, width, height } = placed(frame, room, zoom, ratio);
  return { x: (room.width / 2 - left) / width, y: (room.height / 2 - top) / height };
}

/** The frame's share that lies below a point of its place. */
export function below(
  point: { x: number; y: number },
  frame: Size,
  room: Size,
  zoom: Zoom,
  ratio: number,
): { x: number; y: number } {
  const { left, top, width, height } = placed(frame, room, zoom, ratio);
  const share = (value: number) => Math.min(1, Math.max(0, value));
  return { x: share((point.x - left) / width), y: share((point.y - top) / height) };
}

/** Another scale with the same detail below a point of the place. */
export function zoomedAt(
  scale: number | null,
  point: { x: number; y: number },
  frame: Size,
  room: Size,
  zoom: Zoom,
  ratio: number,
): Zoom {
  const held = below(point, frame, room, zoom, ratio);
  if (scale === null) return { scale: null, x: held.x, y: held.y };
  const [width, height] = [(frame.width * scale) / ratio, (frame.height * scale) / ratio];
  const next = {
    scale,
    x: held.x + (room.width / 2 - point.x) / width,
    y: held.y + (room.height / 2 - point.y) / height,
  };
  return { scale, ...middle(frame, room, next, ratio) };
}

/** By a notch of the wheel closer or further; further than whole is whole. */
export function notched(closer: boolean, frame: Size, room: Size, zoom: Zoom, ratio: number): number | null {
  const fit = fitScale(frame, room, ratio);
  const next = (zoom.scale ?? fit) * (closer ? NOTCH : 1 / NOTCH);
  if (next <= fit) return null;
  return Math.min(CLOSEST, next);
}

/** The next of 50, 100 and 200 %, or the whole frame. */
export function stepped(closer: boolean, frame: Size, room: Size, zoom: Zoom, ratio: number): number | null {
  const fit = fitScale(frame, room, ratio);
  const now = zoom.scale ?? fit;
  const scales = SCALES.filter((scale) => scale > fit);
  if (closer) return scales.find((scale) => scale > now * 1.01) ?? zoom.scale;
  return scales.findLast((scale) => scale < now * 0.99) ?? null;
}

/** Moved by so many of the page's pixels, as a hand moves paper. */
export function dragged(
  by: { x: number; y: number },
  frame: Size,
  room: Size,
  zoom: Zoom,
  ratio: number,
): Zoom {
  if (zoom.scale === null) return zoom;
  const now = middle(frame, room, zoom, ratio);
  const next = {
    scale: zoom.scale,
    x: now.x - (by.x * ratio) / (frame.width * zoom.scale),
    y: now.y - (by.y * ratio) / (frame.height * zoom.scale),
  };
  return { scale: zoom.scale, ...middle(frame, room, next, ratio) };
}

/** Where what lies at a share of one pane's frame lies in another's; null: nobody knows. */
export type Follow = (
  from: string,
  to: string,
  at: { x: number; y: number },
) => { x: number; y: number } | null;

/** The zoom of what is on screen: one for all pictures, or one for each while they are looked at apart. */
export class ZoomStore {
  private zoom: Zoom = WHOLE;
  private own = new Map<string, Zoom>();
  private isLinked = true;
  private readonly listeners = new Set<() => void>();
  /** the pane that was looked at closer last: the others follow it */
  private from = '';
  private following: Follow | null = null;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  of = (pane: string): Zoom => {
    const own = this.own.get(pane);
    if (own) return own;
    const { zoom, from, following } = this;
    if (!following || zoom.scale === null || pane === from) return zoom;
    const at = following(from, pane, zoom);
    return at ? { scale: zoom.scale, ...at } : zoom;
  };
  linked = (): boolean => this.isLinked;
  isClose = (): boolean => this.zoom.scale !== null;

  set(pane: string, zoom: Zoom): void {
    this.from = pane;
    if (this.isLinked) this.zoom = zoom;
    else this.own.set(pane, zoom);
    this.listeners.forEach((listener) => listener());
  }

  /** By what the same detail is found in the other panes; null: all look at equal places. */
  follow(following: Follow | null): void {
    this.following = following;
    this.moved();
  }

  /** What is known of where details lie is another by now. */
  moved(): void {
    this.listeners.forEach((listener) => listener());
  }

  /** Together again all look where the one that is looked at does. */
  link(linked: boolean, current: string): void {
    if (linked) [this.zoom, this.from] = [this.of(current), current];
    this.own.clear();
    this.isLinked = linked;
    this.listeners.forEach((listener) => listener());
  }
}
