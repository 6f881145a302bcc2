import { finishOf, keyParts, shapeOf, type FinishShape } from '@arkiv/core';
import { useEffect, useRef } from 'react';
import { fileSize, previewUrl, type LoadedFrame } from '../../../data/frames';
import type { Looking } from '../looking';
import { pictures } from '../pictures';
import { placed, type Placed, type Size } from '../zoom';
import { LivePicture } from './livePicture';
import styles from './FinishOver.module.css';

interface Props {
  /** of the place on screen */
  name: string;
  frame: LoadedFrame;
  /** the values that it is to be seen with, see `finishText` */
  values: string;
  looking: Looking;
}

/** The frame with the values of the moment, laid over its place: made from its screen preview while a hand changes them. */
export function FinishOver({ name, frame, values, looking }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const live = useRef<LivePicture | null>(null);
  const room = useRef<Size>({ width: 0, height: 0 });
  const newest = useRef({ frame, values });
  const plain = frame.picture === null ? null : keyParts(frame.picture).picture;

  const draw = useRef(() => {
    const box = canvas.current;
    const { frame: now, values: its } = newest.current;
    const bitmap = live.current?.bitmap ?? null;
    const size = fileSize(now) ?? (bitmap && { width: bitmap.width, height: bitmap.height });
    if (!box || !size || room.current.width === 0) return;
    const zoom = looking.zoom.of(name);
    // Closer than the pixels that there are, the picture that the server made shows more, once it is there.
    const close = zoom.scale !== null && pictures.ready(previewUrl(now.picture!, 'full')) !== null;
    box.style.visibility = bitmap && !close ? 'visible' : 'hidden';
    if (!bitmap || close) return;
    const shape = shapeOf(finishOf(its), size);
    const at = placed(shape.box, room.current, zoom, devicePixelRatio);
    drawFinished(box, bitmap, shape, at, room.current);
  }).current;

  useEffect(() => {
    newest.current = { frame, values };
    live.current?.show(values);
    draw();
  }, [frame, values, draw]);

  useEffect(() => {
    if (plain === null) return;
    const url = previewUrl(plain, 'screen');
    const its = new LivePicture(url, draw);
    live.current = its;
    const want = {};
    pictures.want(want, [url]);
    const go = () => {
      its.show(newest.current.values);
      draw();
    };
    go();
    const stops = [pictures.subscribe(go), looking.zoom.subscribe(draw)];
    return () => {
      stops.forEach((stop) => stop());
      pictures.want(want, []);
      its.end();
      live.current = null;
    };
  }, [plain, looking, draw]);

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      if (!entry) return;
      room.current = { width: entry.contentRect.width, height: entry.contentRect.height };
      draw();
    });
    if (canvas.current) observer.observe(canvas.current);
    return () => observer.disconnect();
  }, [draw]);

  return (
    <canvas ref={canvas} className={styles.over} data-testid="finish-over" data-values={values} aria-hidden />
  );
}

/** Draws what a shape shows of a picture into its place. */
export function drawFinished(
  canvas: HTMLCanvasElement,
  bitmap: ImageBitmap,
  shape: FinishShape,
  at: Placed,
  room: Size,
): void {
  const g = begin(canvas, room);
  g.beginPath();
  g.rect(at.left, at.top, at.width, at.height);
  g.clip();
  const scale = at.width / shape.box.width;
  g.translate(at.left + at.width / 2, at.top + at.height / 2);
  g.scale(scale, scale);
  g.rotate((shape.angle * Math.PI) / 180);
  g.translate(-shape.box.x, -shape.box.y);
  drawTurned(g, bitmap, shape);
}

/** A canvas as large as its room, in device pixels, cleared. */
export function begin(canvas: HTMLCanvasElement, room: Size): CanvasRenderingContext2D {
  const [width, height] = [
    Math.round(room.width * devicePixelRatio),
    Math.round(room.height * devicePixelRatio),
  ];
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  const g = canvas.getContext('2d')!;
  g.setTransform(1, 0, 0, 1, 0, 0);
  g.clearRect(0, 0, width, height);
  g.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  g.imageSmoothingQuality = 'high';
  return g;
}

/** The whole picture, turned by quarters, with its upper left at the origin, in its own pixels. */
export function drawTurned(
  g: CanvasRenderingContext2D,
  bitmap: ImageBitmap,
  { turn, width, height }: FinishShape,
): void {
  g.translate(width / 2, height / 2);
  g.rotate((turn * Math.PI) / 2);
  const [w, h] = turn % 2 === 1 ? [height, width] : [width, height];
  g.drawImage(bitmap, -w / 2, -h / 2, w, h);
}
