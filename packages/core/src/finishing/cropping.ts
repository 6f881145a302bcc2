import { largestIn, radians, reach, shapeOf, type FinishShape, type Measured } from './shape';
import { cropText, LEAST_CROP, MOST_SHAPE, type Crop, type Finish } from './values';

/** Which side or corner of the rectangle is held: −1 left or upper, 1 right or lower, 0 neither. */
export interface Held {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
}

/** Pixels below which a side is not drawn: nothing is seen in less, and no hand holds it. */
const leastOf = ({ width, height }: Measured): number => Math.max(16, LEAST_CROP * Math.max(width, height));

/** A way on screen, where the rectangle stands upright, as one in the picture that lies askew below it. */
function inPicture(angle: number, { x, y }: { x: number; y: number }): { x: number; y: number } {
  const [cos, sin] = [Math.cos(radians(angle)), Math.sin(radians(angle))];
  return { x: x * cos + y * sin, y: -x * sin + y * cos };
}

/** A point of the picture on screen, where the rectangle stands upright; both from the picture's middle, in its pixels. */
export function onScreen(angle: number, { x, y }: { x: number; y: number }): { x: number; y: number } {
  const [cos, sin] = [Math.cos(radians(angle)), Math.sin(radians(angle))];
  return { x: x * cos - y * sin, y: x * sin + y * cos };
}

/** Whether it is within the picture, and no longer than the picture's sides: a crop is kept as a share of the largest that stands upright. */
const lies = ({ box, angle, width, height }: FinishShape): boolean => {
  const far = reach(box, angle);
  const slack = 1e-6 * (width + height);
  return (
    box.width <= width + slack &&
    box.height <= height + slack &&
    box.x >= far.x - slack &&
    box.x <= width - far.x + slack &&
    box.y >= far.y - slack &&
    box.y <= height - far.y + slack
  );
};

/** The rectangle moved by a way on screen, in pixels of the picture: it stops at the picture's edges. */
export function moved(shape: FinishShape, by: { x: number; y: number }): FinishShape {
  const { box, angle, width, height } = shape;
  const way = inPicture(angle, by);
  const far = reach(box, angle);
  const within = (value: number, least: number, most: number) =>
    least > most ? (least + most) / 2 : Math.min(most, Math.max(least, value));
  const x = within(box.x + way.x, far.x, width - far.x);
  const y = within(box.y + way.y, far.y, height - far.y);
  return { ...shape, box: { ...box, x, y } };
}

/**
 * The rectangle with one of its corners or sides moved by a way on screen; what lies across stays where it is. `ratio`: width to height
 * that it keeps; null: any. It stops where it would reach beyond the picture.
 */
export function pulled(
  shape: FinishShape,
  held: Held,
  by: { x: number; y: number },
  ratio: number | null,
): FinishShape {
  const { box, angle } = shape;
  const least = leastOf(shape);
  let width = Math.max(least, box.width + held.x * by.x);
  let height = Math.max(least, box.height + held.y * by.y);
  if (ratio === null) {
    // A ribbon is no picture.
    width = Math.max(width, height / (MOST_SHAPE - 1));
    height = Math.max(height, width / (MOST_SHAPE - 1));
  } else {
    if (held.x === 0) width = height * ratio;
    else if (held.y === 0 || width / ratio > height) height = width / ratio;
    else width = height * ratio;
  }
  const between = (t: number): FinishShape => {
    const now = {
      width: box.width + (width - box.width) * t,
      height: box.height + (height - box.height) * t,
    };
    const way = inPicture(angle, {
      x: (held.x * (now.width - box.width)) / 2,
      y: (held.y * (now.height - box.height)) / 2,
    });
    return { ...shape, box: { ...now, x: box.x + way.x, y: box.y + way.y } };
  };
  if (lies(between(1))) return between(1);
  // Sixteen halvings: less than a tenth of a pixel.
  let [low, high] = [0, 1];
  for (let i = 0; i < 16; i++) {
    const middle = (low + high) / 2;
    if (lies(between(middle))) low = middle;
    else high = middle;
  }
  return between(low);
}

/** The rectangle larger or smaller about its middle. */
export function sized(shape: FinishShape, by: number): FinishShape {
  const { box, angle, width, height } = shape;
  const far = reach(box, angle);
  const most = Math.min(
    ...[box.x / far.x, (width - box.x) / far.x, box.y / far.y, (height - box.y) / far.y],
    ...[width / box.width, height / box.height],
  );
  const times = Math.max(leastOf(shape) / Math.min(box.width, box.height), Math.min(by, most));
  return { ...shape, box: { ...box, width: box.width * times, height: box.height * times } };
}

/** What a rectangle is kept as: of the picture's own shape, of one that was chosen, or of whatever shape it has. */
export function cropFrom(
  { box, width, height }: FinishShape,
  shape: 'own' | 'free' | NonNullable<Crop['shape']>,
): string {
  const its =
    shape === 'own'
      ? null
      : shape === 'free'
        ? { width: Math.max(1, Math.round(box.width)), height: Math.max(1, Math.round(box.height)) }
        : shape;
  const most = largestIn(its, { width, height });
  const size = Math.min(1, box.width / most.width);
  return cropText({ shape: its, x: box.x / width, y: box.y / height, size });
}

/** Values with another quarter turn: what of the picture is shown stays the same, and turns along. */
export function turnedBy(finish: Finish, quarters: 1 | -1, size: Measured): Finish {
  const { turn, crop: _, ...rest } = finish;
  const shape = shapeOf(finish, size);
  const next = ((turn ?? 0) + quarters + 4) % 4;
  const { width, height, box } = shape;
  const turned: FinishShape = {
    ...{ turn: next, angle: shape.angle, width: height, height: width },
    box: {
      ...{ width: box.height, height: box.width },
      x: quarters === 1 ? height - box.y : box.y,
      y: quarters === 1 ? box.x : width - box.x,
    },
  };
  const as = finish.crop?.startsWith('own') ? 'own' : 'free';
  return {
    ...rest,
    ...(next !== 0 && { turn: next }),
    ...(finish.crop !== undefined && { crop: cropFrom(turned, as) }),
  };
}
