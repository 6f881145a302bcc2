import {
  memo,
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent,
  type RefObject,
  type WheelEvent,
} from 'react';
import { keyParts, noteOf } from '@arkiv/core';
import { numberOf, previewUrl, thumbUrl, uprightSize, type LoadedFrame } from '../../data/frames';
import { ApiFailure, get } from '../../data/http';
import { overlayOf, type Over } from '../../data/pixels';
import { pictureTries } from '../../data/pictureTries';
import { spotInFile, spotShown } from './finish/spots';
import { bestReady, detailOf, screenIsAll, sizeOf, wishes, type DetailSaid, type Rung } from './ladder';
import type { Looking } from './looking';
import { NOTHING, pictures } from './pictures';
import { placed, type Placed, type Size } from './zoom';
import styles from './Pane.module.css';

interface Props {
  /** of this place on screen */
  name: string;
  frame: LoadedFrame;
  /** frames to make ready, the likeliest first */
  around: readonly LoadedFrame[];
  looking: Looking;
  /** what is laid over the picture */
  over?: 'none' | Over;
  onDetail?: (detail: DetailSaid) => void;
  /** a finger that goes across the whole picture: to the next or the previous frame */
  onSwipe?: (by: 1 | -1) => void;
  /** a spot of the picture is asked for: a click gives it, in shares of its width and height */
  onPoint?: (spot: { x: number; y: number }) => void;
  /** the spot that is being chosen, where it is another than the note’s */
  spot?: { x: number; y: number } | null;
}

/** Milliseconds at a frame after which what a closer look needs is made ready: nobody steps so slowly that hurries. */
const RESTED = 300;
/** Milliseconds between two steps that no eye needs less for: a held key comes every thirty. */
const HURRIED = 90;
/** Pixels that a press may tremble before it is a drag, and that a finger goes for a swipe. */
const TREMBLES = 4;
const SWIPES = 60;
/** Milliseconds between the two presses of a double tap, as browsers count them. */
const TWICE = 300;

const NOTHING_TO_SHOW = 'This frame has no picture. It is kept, copied and marked like all others.';

/** Where frames are sharpest, by picture: asked for once. */
const spots = new Map<string, { x: number; y: number } | null>();

/**
 * One frame on its place of the screen: as large as it fits, or at a zoom. What is drawn is changed by hand: a step, a
 * drag or a picture that has come draws nothing else anew.
 */
export const Pane = memo(function Pane(props: Props) {
  const { name, frame, around, looking, over = 'none', onDetail, onSwipe, onPoint, spot = null } = props;
  const stage = useRef<HTMLDivElement>(null);
  const room = useRef<Size>({ width: 0, height: 0 });
  const shown = useRef<Size | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const pin = useRef<HTMLDivElement>(null);
  /** where the picture lies in its room */
  const lies = useRef<Placed | null>(null);
  const newest = useRef({ frame, around, onDetail, spot });
  const rested = useRef(false);
  /** when the frame was stepped to, and whether the step before was just then */
  const steps = useRef({ at: -Infinity, hurried: false });
  const painted = useRef<(image: HTMLImageElement | null, at: Placed) => void>(() => undefined);

  /** Draws the best that there is, and says what it is. */
  const paint = useRef(() => {
    const box = stage.current;
    const { frame: now, onDetail: say } = newest.current;
    if (!box) return;
    if (!now.picture) {
      box.replaceChildren();
      shown.current = null;
      putPin(pin.current, null, null);
      say?.({ words: 'no picture', full: true });
      return;
    }
    const zoom = looking.zoom.of(name);
    const known = uprightSize(now);
    const across =
      known && room.current.width > 0 ? placed(known, room.current, zoom, devicePixelRatio).width : 0;
    const best = bestReady(pictures, now.picture, Math.min(across * devicePixelRatio, known?.width ?? 0));
    const image = placeIn(box, best?.image ?? null, now);
    const rung: Rung = best?.rung ?? 'thumb';
    image.alt = `Frame ${numberOf(now.name)}`;
    image.dataset.quality = rung;
    const size = sizeOf(now, image);
    shown.current = size;
    if (room.current.width === 0 || size.width === 0) return;
    const at = placed(size, room.current, zoom, devicePixelRatio);
    image.style.width = `${at.width}px`;
    image.style.height = `${at.height}px`;
    image.style.transform = `translate(${snapped(at.left)}px, ${snapped(at.top)}px)`;
    lies.current = at;
    putPin(
      pin.current,
      at,
      spotShown(now, newest.current.spot ?? (now.note === null ? null : noteOf(now.note).spot)),
    );
    if (zoom.scale === null) delete box.dataset.close;
    else box.dataset.close = '';
    if ((zoom.scale ?? 0) > 2) image.dataset.large = '';
    else delete image.dataset.large;
    painted.current(best?.image ?? null, at);
    const failed = pictures.failed(previewUrl(now.picture, 'screen'));
    const top: Rung = zoom.scale !== null && !screenIsAll(now) ? 'full' : 'screen';
    say?.(
      best === null && failed
        ? { words: 'not decoded', full: false }
        : detailOf({
            ...{ rung, detail: now.detail, width: image.naturalWidth, scale: zoom.scale },
            frameWidth: size.width,
            onScreen: at.width * devicePixelRatio,
            better:
              !pictures.ready(previewUrl(now.picture, top)) && !pictures.failed(previewUrl(now.picture, top)),
          }),
    );
  }).current;

  const want = useRef(() => {
    const { frame: now, around: next } = newest.current;
    const screenReady = now.picture !== null && pictures.ready(previewUrl(now.picture, 'screen')) !== null;
    const close = looking.zoom.of(name).scale !== null;
    const hurried = !rested.current && steps.current.hurried;
    pictures.want(paint, wishes(now, next, { close, rested: rested.current, hurried, screenReady }));
  }).current;

  // Before the browser draws: the picture changes in the same frame of the screen as the line below it.
  useLayoutEffect(() => {
    newest.current = { frame, around, onDetail, spot };
    paint();
  }, [frame, around, onDetail, spot, paint]);

  useEffect(() => {
    const now = performance.now();
    steps.current = { at: now, hurried: now - steps.current.at < HURRIED };
    rested.current = false;
    setFailure(null);
    // What could not be shown is tried once more when it is gone to.
    if (frame.picture) pictures.again(previewUrl(frame.picture, 'screen'));
    want();
    const slows = setTimeout(() => {
      steps.current.hurried = false;
      want();
    }, HURRIED);
    const rests = setTimeout(() => {
      rested.current = true;
      want();
      if (frame.picture) void findSharpest(keyParts(frame.picture).picture);
    }, RESTED);
    return () => {
      clearTimeout(slows);
      clearTimeout(rests);
    };
  }, [frame.picture, want]);
  useEffect(() => want(), [around, want]);
  useEffect(() => () => pictures.want(paint, []), [paint]);

  useEffect(() => {
    const came = () => {
      paint();
      want();
    };
    const stops = [pictures.subscribe(came), looking.zoom.subscribe(came), pictureTries.subscribe(came)];
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      const { width, height } = entry.contentRect;
      room.current = { width, height };
      paint();
    });
    if (stage.current) observer.observe(stage.current);
    return () => {
      stops.forEach((stop) => stop());
      observer.disconnect();
    };
  }, [looking, paint, want]);

  useEffect(
    () =>
      looking.register(name, {
        frame: () => shown.current,
        room: () => room.current,
        sharpest: () => {
          const now = newest.current.frame;
          return spotShown(now, spots.get(keyParts(now.picture ?? '').picture) ?? null);
        },
      }),
    [looking, name],
  );

  // Why there is nothing to be seen is asked when it has failed, and once.
  const { picture } = frame;
  useEffect(() => {
    if (!picture) return;
    const large = previewUrl(picture, 'screen');
    let gone = false;
    const look = () => {
      if (!pictures.failed(large)) return setFailure(null);
      void explain(large).then((words) => !gone && pictures.failed(large) && setFailure(words));
    };
    look();
    const stop = pictures.subscribe(look);
    return () => {
      gone = true;
      stop();
    };
  }, [picture]);

  const overlay = useOverlay(over, stage, room);
  painted.current = overlay.begin;
  const hands = useHands(name, looking, stage, onSwipe);
  const words = failure ?? (!picture ? NOTHING_TO_SHOW : null);
  return (
    <div className={styles.pane}>
      <div ref={stage} data-testid="stage" className={styles.stage} {...hands} />
      {over !== 'none' && (
        <canvas ref={overlay.canvas} className={styles.over} aria-hidden data-over={over} />
      )}
      <div ref={pin} data-testid="pin" className={styles.pin} hidden aria-hidden />
      {onPoint && (
        <div
          className={styles.pointing}
          data-testid="pointing"
          onPointerDown={(event) => event.preventDefault()}
          onClick={({ nativeEvent: { offsetX, offsetY } }) => {
            const at = lies.current;
            if (!at) return;
            const [x, y] = [(offsetX - at.left) / at.width, (offsetY - at.top) / at.height];
            if (x >= 0 && x <= 1 && y >= 0 && y <= 1) onPoint(spotInFile(frame, { x, y }));
          }}
        />
      )}
      {words && (
        <div className={styles.said}>
          <div role="alert">{words}</div>
        </div>
      )}
    </div>
  );
});

/** Shows where a note points to, wherever that lies by now. */
function putPin(pin: HTMLDivElement | null, at: Placed | null, spot: { x: number; y: number } | null): void {
  if (!pin) return;
  pin.hidden = at === null || spot === null;
  if (at && spot)
    pin.style.transform = `translate(${at.left + spot.x * at.width}px, ${at.top + spot.y * at.height}px)`;
}

/** Milliseconds at rest after which an overlay is made: while a picture is dragged it would lag behind. */
const STILL = 120;

/** Lays what is clipped or sharp over the part of a picture that is seen, made beside the thread that draws. */
function useOverlay(
  over: 'none' | Over,
  stage: RefObject<HTMLDivElement | null>,
  room: RefObject<Size>,
): {
  canvas: RefObject<HTMLCanvasElement | null>;
  begin: (image: HTMLImageElement | null, at: Placed) => void;
} {
  const canvas = useRef<HTMLCanvasElement>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const last = useRef<{ image: HTMLImageElement | null; at: Placed } | null>(null);
  const asked = useRef(0);
  const make = useCallback(() => {
    const [box, seen] = [canvas.current, last.current];
    if (over === 'none' || !box || !seen?.image) return;
    const mine = ++asked.current;
    const { image, at } = seen;
    const { width, height } = room.current;
    const part = seenPart(image, at, { width, height });
    if (part.width < 1 || part.height < 1) return;
    const scale = at.width / image.naturalWidth;
    void overlayOf(image, over, part, Math.max(1, Math.floor(1 / (scale * devicePixelRatio)))).then(
      (made) => {
        if (mine !== asked.current || canvas.current !== box) return;
        [box.width, box.height] = [made.width, made.height];
        box.getContext('2d')?.putImageData(new ImageData(made.data, made.width, made.height), 0, 0);
        box.style.transform = `translate(${at.left + part.x * scale}px, ${at.top + part.y * scale}px)`;
        box.style.width = `${part.width * scale}px`;
        box.style.height = `${part.height * scale}px`;
        box.style.visibility = 'visible';
      },
    );
  }, [over, room]);
  const begin = useCallback(
    (image: HTMLImageElement | null, at: Placed) => {
      const same =
        last.current?.image === image &&
        (['left', 'top', 'width', 'height'] as const).every((k) => last.current!.at[k] === at[k]);
      last.current = { image, at };
      if (same) return;
      // What lay over another picture, or another part, lies over nothing now.
      asked.current += 1;
      if (canvas.current) canvas.current.style.visibility = 'hidden';
      clearTimeout(timer.current);
      timer.current = setTimeout(make, STILL);
    },
    [make],
  );
  useEffect(() => {
    make();
    return () => clearTimeout(timer.current);
  }, [make, stage]);
  return { canvas, begin };
}

/** The part of a picture that is seen, in its own pixels. */
function seenPart(
  image: HTMLImageElement,
  at: Placed,
  room: Size,
): { x: number; y: number; width: number; height: number } {
  const scale = at.width / image.naturalWidth;
  const x = Math.max(0, Math.floor(-at.left / scale));
  const y = Math.max(0, Math.floor(-at.top / scale));
  return {
    ...{ x, y },
    width: Math.min(image.naturalWidth - x, Math.ceil(Math.min(room.width, at.width) / scale)),
    height: Math.min(image.naturalHeight - y, Math.ceil(Math.min(room.height, at.height) / scale)),
  };
}

/** Whole device pixels: between two of them every edge is soft. */
const snapped = (value: number): number => Math.round(value * devicePixelRatio) / devicePixelRatio;

/** Puts a decoded picture on its place; where none is there yet, a small one that the browser loads by itself. */
function placeIn(box: HTMLElement, image: HTMLImageElement | null, frame: LoadedFrame): HTMLImageElement {
  const now = box.firstElementChild as HTMLImageElement | null;
  if (image === null) {
    const src = thumbUrl(frame)!;
    // The small one stands until a better one is there; what showed another frame goes at once.
    if (now?.getAttribute('src') === src) return now;
    const small = new Image();
    small.src = src;
    small.draggable = false;
    small.dataset.small = '';
    giveUp(now);
    box.replaceChildren(small);
    return small;
  }
  if (now === image) return image;
  giveUp(now);
  // Two frames of equal content share a picture, which can lie in one place alone.
  const elsewhere = image.parentElement !== null && image.parentElement !== box;
  const one = elsewhere ? (image.cloneNode() as HTMLImageElement) : image;
  one.draggable = false;
  box.replaceChildren(one);
  return one;
}

/** A small one that is still on its way when another picture takes its place: a held arrow would leave a long line of them before the one that is wanted. */
function giveUp(image: HTMLImageElement | null): void {
  if (image?.dataset.small !== undefined && !image.complete) image.src = NOTHING;
}

async function findSharpest(picture: string): Promise<void> {
  if (spots.has(picture)) return;
  spots.set(picture, null);
  try {
    spots.set(picture, await get(`/features/${picture}/sharpest`));
  } catch {
    // A closer look then begins in the middle.
    spots.delete(picture);
  }
}

/** What hands do to a picture: click or double tap for 100 %, drag, wheel, pinch, swipe. */
function useHands(
  name: string,
  looking: Looking,
  stage: RefObject<HTMLDivElement | null>,
  onSwipe: ((by: 1 | -1) => void) | undefined,
) {
  const down = useRef(new Map<number, { x: number; y: number; startX: number; startY: number }>());
  const moved = useRef(false);
  const tapped = useRef({ at: 0, x: 0, y: 0 });
  const inPlace = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const box = stage.current!.getBoundingClientRect();
    return { x: clientX - box.left, y: clientY - box.top };
  };
  return {
    onPointerDown(event: PointerEvent) {
      if (event.button !== 0) return;
      const at = inPlace(event);
      down.current.set(event.pointerId, { ...at, startX: at.x, startY: at.y });
      moved.current = down.current.size > 1;
      (event.target as Element).setPointerCapture?.(event.pointerId);
    },
    onPointerMove(event: PointerEvent) {
      const at = inPlace(event);
      if (event.pointerType !== 'touch') looking.pointed(name, at.x, at.y);
      const its = down.current.get(event.pointerId);
      if (!its) return;
      const by = { x: at.x - its.x, y: at.y - its.y };
      if (!moved.current && Math.hypot(at.x - its.startX, at.y - its.startY) < TREMBLES) return;
      moved.current = true;
      const other = [...down.current].find(([id]) => id !== event.pointerId)?.[1];
      if (other) {
        const apart = Math.hypot(its.x - other.x, its.y - other.y);
        const now = Math.hypot(at.x - other.x, at.y - other.y);
        const between = { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 };
        if (apart > 0) looking.pinch(name, now / apart, between, { x: by.x / 2, y: by.y / 2 });
      } else if (looking.zoom.of(name).scale !== null) {
        if (stage.current) stage.current.dataset.dragged = '';
        looking.drag(name, by);
      }
      Object.assign(its, at);
    },
    onPointerUp(event: PointerEvent) {
      const its = down.current.get(event.pointerId);
      down.current.delete(event.pointerId);
      if (stage.current) delete stage.current.dataset.dragged;
      if (!its || down.current.size > 0) return;
      const at = inPlace(event);
      const close = looking.zoom.of(name).scale !== null;
      const across = at.x - its.startX;
      if (moved.current) {
        const swiped = event.pointerType === 'touch' && !close && Math.abs(across) > SWIPES;
        if (swiped) onSwipe?.(across < 0 ? 1 : -1);
        return;
      }
      if (event.pointerType !== 'touch') return looking.toggle(name, at);
      const before = tapped.current;
      const twice =
        event.timeStamp - before.at < TWICE && Math.hypot(at.x - before.x, at.y - before.y) < SWIPES / 2;
      tapped.current = twice ? { at: 0, x: 0, y: 0 } : { at: event.timeStamp, ...at };
      if (twice) looking.toggle(name, at);
    },
    onPointerCancel(event: PointerEvent) {
      down.current.delete(event.pointerId);
    },
    onPointerLeave: () => looking.left(),
    onWheel(event: WheelEvent) {
      if (event.deltaY !== 0) looking.wheel(name, event.deltaY < 0, inPlace(event));
    },
  };
}

async function explain(url: string): Promise<string> {
  try {
    const response = await fetch(url);
    const body = (await response.json()) as { message?: string; next?: string };
    return `${body.message ?? 'The picture cannot be shown.'} ${body.next ?? ''}`;
  } catch (error) {
    return error instanceof ApiFailure ? error.message : 'The picture cannot be fetched from the server.';
  }
}
