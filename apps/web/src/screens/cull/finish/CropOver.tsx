import {
  cropFrom,
  cropOf,
  finishText,
  keptNumber,
  keyParts,
  levelAngle,
  moved,
  onScreen,
  pulled,
  shapeOf,
  type Finish,
  type FinishShape,
  type Held,
} from '@arkiv/core';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { fileSize, previewUrl, type LoadedFrame } from '../../../data/frames';
import { pictures } from '../pictures';
import type { Size } from '../zoom';
import { begin, drawTurned } from './FinishOver';
import { LivePicture } from './livePicture';
import type { Finishing } from './finishing';
import styles from './FinishOver.module.css';

interface Props {
  frame: LoadedFrame;
  finish: Finish;
  /** what a drag does: it moves the rectangle, or draws what is to lie level */
  does: 'crop' | 'level';
  background: string;
  onTry: Finishing['attempt'];
  onSettle: () => void;
  /** a line was drawn */
  onLevelled: () => void;
}

/** The page's pixels beside the picture, so that a corner can be held; and how near a corner or side a hand must be: a fingertip. */
const [MARGIN, NEAR] = [28, 22];

type Point = { x: number; y: number };

/** The whole picture with the rectangle that is left of it: moved, pulled, and laid level by a line. */
export function CropOver({ frame, finish, does, background, onTry, onSettle, onLevelled }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const live = useRef<LivePicture | null>(null);
  const [room, setRoom] = useState<Size>({ width: 0, height: 0 });
  const [line, setLine] = useState<{ from: Point; to: Point } | null>(null);
  const [made, setMade] = useState(0);
  const hand = useRef<{ held: Held; shape: FinishShape; x: number; y: number } | null>(null);
  const [cursor, setCursor] = useState('');
  const size = fileSize(frame) ?? { width: 3, height: 2 };
  const shape = shapeOf(finish, size);
  const view = viewOf(shape, room);
  const plain = keyParts(frame.picture ?? '').picture;
  const { turn: _, angle: __, crop: ___, ...tones } = finish;
  const values = finishText(tones);

  useEffect(() => {
    const url = previewUrl(plain, 'screen');
    const its = new LivePicture(url, () => setMade((n) => n + 1));
    live.current = its;
    const want = {};
    pictures.want(want, [url]);
    const stop = pictures.subscribe(() => its.show(newestValues.current));
    return () => {
      stop();
      pictures.want(want, []);
      its.end();
      live.current = null;
    };
  }, [plain]);
  const newestValues = useRef(values);
  useEffect(() => {
    newestValues.current = values;
    live.current?.show(values);
  }, [values, plain]);

  useEffect(() => {
    const box = canvas.current;
    if (!box || room.width === 0) return;
    draw(box, live.current?.bitmap ?? null, shape, room, line);
  });
  // The picture that came is drawn by the effect above.
  void made;

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    if (canvas.current) observer.observe(canvas.current);
    return () => observer.disconnect();
  }, []);

  const at = (event: PointerEvent): Point => {
    const box = canvas.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const crop = finish.crop === undefined ? null : cropOf(finish.crop);
  const locked = crop === null || crop.shape === null || isNamed(crop.shape);
  const ratio = shape.box.width / shape.box.height;

  return (
    <div
      className={styles.hands}
      style={{ background, ...(cursor !== '' && does === 'crop' && { cursor }) }}
      data-does={does}
      data-testid="crop-over"
      data-crop={finish.crop ?? ''}
      data-angle={finish.angle ?? 0}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.preventDefault();
        (event.currentTarget as Element).setPointerCapture(event.pointerId);
        const from = at(event);
        if (does === 'level') return setLine({ from, to: from });
        hand.current = { held: heldAt(from, view, shape, locked), shape, ...from };
      }}
      onPointerMove={(event) => {
        const to = at(event);
        if (line) return setLine({ ...line, to });
        const its = hand.current;
        if (!its) return setCursor(CURSORS[keyOf(heldAt(to, view, shape, locked))] ?? '');
        const by = { x: (to.x - its.x) / view.scale, y: (to.y - its.y) / view.scale };
        const next =
          its.held.x === 0 && its.held.y === 0
            ? moved(its.shape, by)
            : pulled(its.shape, its.held, by, locked ? ratio : null);
        onTry({
          crop: cropFrom(
            next,
            crop?.shape === undefined || crop.shape === null ? 'own' : locked ? crop.shape : 'free',
          ),
        });
      }}
      onPointerUp={(event) => {
        hand.current = null;
        if (!line) return onSettle();
        const to = at(event);
        setLine(null);
        // A click is no line.
        if (Math.hypot(to.x - line.from.x, to.y - line.from.y) < NEAR) return;
        onTry({ angle: keptNumber('angle', levelAngle(shape.angle, line.from, to)) });
        onSettle();
        onLevelled();
      }}
    >
      <canvas ref={canvas} className={styles.over} aria-hidden />
    </div>
  );
}

/** Shapes that are chosen by name are kept in whole numbers below a hundred; one that was drawn is as large as its pixels. */
export const isNamed = ({ width, height }: Size): boolean => width < 100 && height < 100;

interface View {
  scale: number;
  /** of the rectangle on screen */
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Where the rectangle lies on screen, with the whole picture askew around it. */
function viewOf(shape: FinishShape, room: Size): View {
  const { width, height, box, angle } = shape;
  const [cos, sin] = [
    Math.abs(Math.cos((angle * Math.PI) / 180)),
    Math.abs(Math.sin((angle * Math.PI) / 180)),
  ];
  const around = { width: width * cos + height * sin, height: width * sin + height * cos };
  const scale = Math.max(
    1e-6,
    Math.min((room.width - 2 * MARGIN) / around.width, (room.height - 2 * MARGIN) / around.height),
  );
  const middle = onScreen(angle, { x: box.x - width / 2, y: box.y - height / 2 });
  const [w, h] = [box.width * scale, box.height * scale];
  return {
    ...{ scale, width: w, height: h },
    left: room.width / 2 + middle.x * scale - w / 2,
    top: room.height / 2 + middle.y * scale - h / 2,
  };
}

/** What a hand holds at a point: a corner, a side where the shape is free, or the rectangle itself. */
function heldAt(at: Point, view: View, _shape: FinishShape, locked: boolean): Held {
  const near = (value: number, low: number, high: number): -1 | 0 | 1 =>
    Math.abs(value - low) < NEAR ? -1 : Math.abs(value - high) < NEAR ? 1 : 0;
  const inside =
    at.x > view.left - NEAR &&
    at.x < view.left + view.width + NEAR &&
    at.y > view.top - NEAR &&
    at.y < view.top + view.height + NEAR;
  if (!inside) return { x: 0, y: 0 };
  const held = {
    x: near(at.x, view.left, view.left + view.width),
    y: near(at.y, view.top, view.top + view.height),
  };
  const corner = held.x !== 0 && held.y !== 0;
  return corner || !locked ? held : { x: 0, y: 0 };
}

const keyOf = ({ x, y }: Held): string => `${x} ${y}`;
const CURSORS: Readonly<Record<string, string>> = {
  '-1 -1': 'nwse-resize',
  '1 1': 'nwse-resize',
  '-1 1': 'nesw-resize',
  '1 -1': 'nesw-resize',
  '0 1': 'ns-resize',
  '0 -1': 'ns-resize',
  '1 0': 'ew-resize',
  '-1 0': 'ew-resize',
};

/** Dark over what goes: what is left stands out on light pictures and on dark ones. */
const GOES = 'rgba(0, 0, 0, 0.62)';

function draw(
  canvas: HTMLCanvasElement,
  bitmap: ImageBitmap | null,
  shape: FinishShape,
  room: Size,
  line: { from: Point; to: Point } | null,
): void {
  const g = begin(canvas, room);
  const view = viewOf(shape, room);
  if (bitmap) {
    g.save();
    g.translate(room.width / 2, room.height / 2);
    g.scale(view.scale, view.scale);
    g.rotate((shape.angle * Math.PI) / 180);
    g.translate(-shape.width / 2, -shape.height / 2);
    drawTurned(g, bitmap, shape);
    g.restore();
  }
  const { left, top, width, height } = view;
  g.fillStyle = GOES;
  g.beginPath();
  g.rect(0, 0, room.width, room.height);
  g.rect(left, top, width, height);
  g.fill('evenodd');
  const stroke = (path: () => void, wide: number) => {
    for (const [colour, extra] of [
      ['rgba(0, 0, 0, 0.75)', 2],
      ['#ffffff', 0],
    ] as const) {
      g.strokeStyle = colour;
      g.lineWidth = wide + extra;
      g.beginPath();
      path();
      g.stroke();
    }
  };
  stroke(() => g.rect(left, top, width, height), 1);
  // Thirds, quietly: where eyes and horizons are laid.
  g.globalAlpha = 0.35;
  stroke(() => {
    for (const third of [1, 2]) {
      g.moveTo(left + (width * third) / 3, top);
      g.lineTo(left + (width * third) / 3, top + height);
      g.moveTo(left, top + (height * third) / 3);
      g.lineTo(left + width, top + (height * third) / 3);
    }
  }, 1);
  g.globalAlpha = 1;
  const arm = Math.min(18, width / 3, height / 3);
  stroke(() => {
    for (const [x, y, dx, dy] of [
      [left, top, 1, 1],
      [left + width, top, -1, 1],
      [left, top + height, 1, -1],
      [left + width, top + height, -1, -1],
    ] as const) {
      g.moveTo(x + dx * arm, y);
      g.lineTo(x, y);
      g.lineTo(x, y + dy * arm);
    }
  }, 3);
  if (line)
    stroke(() => {
      g.moveTo(line.from.x, line.from.y);
      g.lineTo(line.to.x, line.to.y);
    }, 1.5);
}
