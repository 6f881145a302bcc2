// What finishing makes of decoded pictures; runs where they are decoded.
import { changesShape, shapeOf, toner, type Finish, type Measured } from '@arkiv/core';
import sharp from 'sharp';

/** Pixels in red, green and blue, row by row. */
export interface Pixels extends Measured {
  data: Buffer;
}

const asImage = ({ data, width, height }: Pixels): sharp.Sharp =>
  sharp(data, { raw: { width, height, channels: 3 }, limitInputPixels: false });

async function pixelsOf(image: sharp.Sharp): Promise<Pixels> {
  const { data, info } = await image.raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/**
 * A picture with values. `image` is upright and `natural` large, whatever it was decoded at; `size` is what its finished pixels are to
 * fit exactly, no larger than what is left of it.
 */
export async function finishedPixels(
  image: sharp.Sharp,
  natural: Measured,
  finish: Finish,
  size: Measured,
): Promise<Pixels> {
  const shape = shapeOf(finish, natural);
  const scale = size.width / shape.box.width;
  const small = (pixels: number) => Math.max(1, Math.round(pixels * scale));
  let pixels = await pixelsOf(
    image
      .resize(small(natural.width), small(natural.height), { fit: 'fill' })
      .toColourspace('srgb')
      .flatten({ background: '#fff' }),
  );
  if (changesShape(finish)) pixels = await shaped(pixels, finish, size);
  toner(finish)(pixels.data, 3);
  return pixels;
}

async function shaped(from: Pixels, finish: Finish, size: Measured): Promise<Pixels> {
  const { turn, angle, box, width, height } = shapeOf(finish, from);
  let pixels = turn === 0 ? from : await pixelsOf(asImage(from).rotate(turn * 90));
  let middle = { x: box.x, y: box.y };
  if (angle !== 0) {
    const [cos, sin] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    pixels = await pixelsOf(
      asImage(pixels).affine(
        [
          [cos, -sin],
          [sin, cos],
        ],
        { interpolator: 'bicubic', background: '#000' },
      ),
    );
    // What was the middle of the picture is the middle of the larger one that it lies askew in.
    const [dx, dy] = [middle.x - width / 2, middle.y - height / 2];
    middle = { x: pixels.width / 2 + dx * cos - dy * sin, y: pixels.height / 2 + dx * sin + dy * cos };
  }
  const wide = Math.min(size.width, pixels.width);
  const high = Math.min(size.height, pixels.height);
  const from0 = (at: number, length: number, room: number) =>
    Math.min(room - length, Math.max(0, Math.round(at - length / 2)));
  return pixelsOf(
    asImage(pixels).extract({
      left: from0(middle.x, wide, pixels.width),
      top: from0(middle.y, high, pixels.height),
      width: wide,
      height: high,
    }),
  );
}
