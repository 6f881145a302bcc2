import { CLOSEST, dragged, fitScale, notched, stepped, WHOLE, ZoomStore, zoomedAt, type Size } from './zoom';

/** Milliseconds for which a hand on the mouse is meant by a key: longer at rest, the key means the sharpest spot. */
const POINTED = 3000;

/** A place of the screen that shows a frame. */
export interface Place {
  /** of the frame that it shows now; null while nothing is */
  frame: () => Size | null;
  room: () => Size;
  /** where the frame is sharpest, as far as it is known */
  sharpest: () => { x: number; y: number } | null;
}

/** How closely the pictures on screen are looked at: what hands and keys do to the zoom, place by place. */
export class Looking {
  readonly zoom = new ZoomStore();
  private readonly places = new Map<string, Place>();
  private pointer: { place: string; x: number; y: number; at: number } | null = null;

  register(name: string, place: Place): () => void {
    this.places.set(name, place);
    return () => {
      if (this.places.get(name) === place) this.places.delete(name);
    };
  }

  pointed(place: string, x: number, y: number): void {
    this.pointer = { place, x, y, at: performance.now() };
  }

  left(): void {
    this.pointer = null;
  }

  /** 100 %, and back: at a point of the place, or where the frame is sharpest. */
  toggle(name: string, at: { x: number; y: number } | null = this.pointOn(name)): void {
    const { frame, room, place } = this.seen(name);
    if (!frame || !place) return;
    const now = this.zoom.of(name);
    if (now.scale !== null) return this.zoom.set(name, { ...now, scale: null });
    if (at) return this.zoom.set(name, zoomedAt(1, at, frame, room, WHOLE, devicePixelRatio));
    this.zoom.set(name, { scale: 1, ...(place.sharpest() ?? { x: 0.5, y: 0.5 }) });
  }

  /** To the next of 50, 100, 200 % or back to the whole frame. */
  step(name: string, closer: boolean): void {
    const { frame, room } = this.seen(name);
    if (!frame) return;
    const now = this.zoom.of(name);
    const scale = stepped(closer, frame, room, now, devicePixelRatio);
    const centre = this.pointOn(name) ?? { x: room.width / 2, y: room.height / 2 };
    this.zoom.set(name, zoomedAt(scale, centre, frame, room, now, devicePixelRatio));
  }

  wheel(name: string, closer: boolean, at: { x: number; y: number }): void {
    const { frame, room } = this.seen(name);
    if (!frame) return;
    const now = this.zoom.of(name);
    const scale = notched(closer, frame, room, now, devicePixelRatio);
    if (scale === null && now.scale === null) return;
    this.zoom.set(name, zoomedAt(scale, at, frame, room, now, devicePixelRatio));
  }

  /** Two fingers: `by` times as large, about a point that also moves. */
  pinch(name: string, by: number, at: { x: number; y: number }, moved: { x: number; y: number }): void {
    const { frame, room } = this.seen(name);
    if (!frame) return;
    const now = this.zoom.of(name);
    const fit = fitScale(frame, room, devicePixelRatio);
    const scale = (now.scale ?? fit) * by;
    const next = zoomedAt(
      scale <= fit ? null : Math.min(CLOSEST, scale),
      at,
      frame,
      room,
      now,
      devicePixelRatio,
    );
    this.zoom.set(name, dragged(moved, frame, room, next, devicePixelRatio));
  }

  drag(name: string, by: { x: number; y: number }): void {
    const { frame, room } = this.seen(name);
    if (frame) this.zoom.set(name, dragged(by, frame, room, this.zoom.of(name), devicePixelRatio));
  }

  private seen(name: string): { frame: Size | null; room: Size; place: Place | undefined } {
    const place = this.places.get(name);
    return { frame: place?.frame() ?? null, room: place?.room() ?? { width: 0, height: 0 }, place };
  }

  private pointOn(name: string): { x: number; y: number } | null {
    const { pointer } = this;
    const is = pointer && pointer.place === name && performance.now() - pointer.at < POINTED;
    return is ? { x: pointer.x, y: pointer.y } : null;
  }
}
