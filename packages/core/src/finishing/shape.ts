import { cropOf, cropText, type Crop, type Finish } from './values';

export interface Measured {
  width: number;
  height: number;
}

/**
 * What part of a picture is shown. The picture is turned by quarters first; then a rectangle of it is taken that lies askew by `angle`:
 * what is shown is upright, and the picture below it is turned clockwise.
 */
export interface FinishShape {
  /** quarter turns clockwise, 0…3 */
  turn: number;
  /** degrees clockwise */
  angle: number;
  /** of the turned picture, in pixels */
  width: number;
  height: number;
  /** middle of the rectangle in the turned picture, its width and height, in pixels */
  box: { x: number; y: number; width: number; height: number };
}

export const changesShape = ({ turn, angle, crop }: Finish): boolean =>
  Boolean(turn || angle || crop !== undefined);

export const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** The largest rectangle of a shape within another. */
export function largestIn(shape: Measured | null, { width, height }: Measured): Measured {
  if (shape === null) return { width, height };
  const ratio = shape.width / shape.height;
  return ratio > width / height ? { width, height: width / ratio } : { width: height * ratio, height };
}

/** How far a rectangle that lies askew reaches from its middle. */
export function reach({ width, height }: Measured, angle: number): { x: number; y: number } {
  const [cos, sin] = [Math.abs(Math.cos(radians(angle))), Math.abs(Math.sin(radians(angle)))];
  return { x: (width * cos + height * sin) / 2, y: (width * sin + height * cos) / 2 };
}

/**
 * What values show of a picture that is `size` large as it stands upright. A rectangle that would reach beyond the picture is made smaller
 * about its middle until it does not: nothing is shown that is not there, on whatever picture the values are put.
 */
export function shapeOf({ turn = 0, angle = 0, crop: text }: Finish, size: Measured): FinishShape {
  const turned = turn % 2 === 1 ? { width: size.height, height: size.width } : { ...size };
  const crop: Crop = (text !== undefined && cropOf(text)) || { shape: null, x: 0.5, y: 0.5, size: 1 };
  const most = largestIn(crop.shape, turned);
  const wanted = { width: most.width * crop.size, height: most.height * crop.size };
  const [x, y] = [crop.x * turned.width, crop.y * turned.height];
  const far = reach(wanted, angle);
  // A middle on the very edge leaves a pixel.
  const by = Math.min(...[1, x / far.x, (turned.width - x) / far.x, y / far.y, (turned.height - y) / far.y]);
  const box = {
    ...{ x, y },
    width: Math.max(1, wanted.width * by),
    height: Math.max(1, wanted.height * by),
  };
  return { turn, angle, ...turned, box };
}

/** Upright pixels of a picture with values. */
export function finishedSize(finish: Finish, size: Measured): Measured {
  const { box } = shapeOf(finish, size);
  return { width: Math.max(1, Math.round(box.width)), height: Math.max(1, Math.round(box.height)) };
}

/** Where a point of the shown picture lies in the turned one, both as shares. */
export function pointBelow(shape: FinishShape, { x, y }: { x: number; y: number }): { x: number; y: number } {
  const { box, angle } = shape;
  const [dx, dy] = [(x - 0.5) * box.width, (y - 0.5) * box.height];
  const [cos, sin] = [Math.cos(radians(angle)), Math.sin(radians(angle))];
  return { x: (box.x + dx * cos + dy * sin) / shape.width, y: (box.y - dx * sin + dy * cos) / shape.height };
}

/** Where a point of the turned picture lies in the shown one, both as shares; beyond 0…1: it is not shown. */
export function pointShown(shape: FinishShape, { x, y }: { x: number; y: number }): { x: number; y: number } {
  const { box, angle } = shape;
  const [dx, dy] = [x * shape.width - box.x, y * shape.height - box.y];
  const [cos, sin] = [Math.cos(radians(angle)), Math.sin(radians(angle))];
  return { x: 0.5 + (dx * cos - dy * sin) / box.width, y: 0.5 + (dx * sin + dy * cos) / box.height };
}

/** Where a point of the shown picture lies in the file as it stands upright, both as shares. */
export const inFile = (shape: FinishShape, at: { x: number; y: number }): { x: number; y: number } =>
  beforeTurn(shape.turn, pointBelow(shape, at));

/** Where a point of the upright file lies in the shown picture, both as shares. */
export const inShown = (shape: FinishShape, at: { x: number; y: number }): { x: number; y: number } =>
  pointShown(shape, beforeTurn(4 - shape.turn, at));

/** Where a point of the turned picture lies in the upright file, both as shares. */
export function beforeTurn(turn: number, { x, y }: { x: number; y: number }): { x: number; y: number } {
  switch (turn % 4) {
    case 1:
      return { x: y, y: 1 - x };
    case 2:
      return { x: 1 - x, y: 1 - y };
    case 3:
      return { x: 1 - y, y: x };
    default:
      return { x, y };
  }
}

/**
 * The angle that makes a line level, or upright where it is rather that: what is drawn along a horizon or a wall. In degrees, within
 * 45 either way; `from` and `to` in pixels of the picture that lies at `angle` now.
 */
export function levelAngle(
  angle: number,
  from: { x: number; y: number },
  to: { x: number; y: number },
): number {
  const slope = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
  // By how much the line leaves the nearest of the four directions.
  const off = slope - Math.round(slope / 90) * 90;
  return Math.min(45, Math.max(-45, angle - off));
}

/**
 * A crop as it is put on another picture. One that lies along its own picture, as most do, lies along the other too, whichever way that
 * was held; one that was made across stands as it is.
 */
export function cropFor(text: string, from: Measured, to: Measured): string {
  const crop = cropOf(text);
  if (!crop?.shape) return text;
  const wide = ({ width, height }: Measured) => width >= height;
  if (wide(from) === wide(to) || wide(crop.shape) !== wide(from)) return text;
  const shape = { width: crop.shape.height, height: crop.shape.width };
  return cropText({ ...crop, shape, x: crop.y, y: crop.x });
}
