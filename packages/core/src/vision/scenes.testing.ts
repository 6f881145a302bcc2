import type { Grey } from './grey';
import type { Rgb } from './light';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { cos, floor, max, min, round, sin } = Math;

/** Numbers 0 … 1 that look like chance and are the same each time (Park and Miller 1988). */
export function chance(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** Boxes of many sizes and greys: structure with edges, as pictures have. */
export function scene(width: number, height: number, seed: number): Grey {
  const random = chance(seed);
  const data = new Float32Array(width * height).fill(110);
  for (let n = 0; n < 220; n++) {
    const [w, h] = [4 + random() * 60, 4 + random() * 60];
    const [left, top, grey] = [random() * width - w / 2, random() * height - h / 2, 30 + random() * 190];
    for (let y = max(0, round(top)); y < min(height, top + h); y++)
      for (let x = max(0, round(left)); x < min(width, left + w); x++) data[y * width + x] = grey;
  }
  return { width, height, data };
}

export const changed = (grey: Grey, change: (value: number) => number): Grey => ({
  ...grey,
  data: Float32Array.from(grey.data, (value) => min(255, max(0, change(value)))),
});

/** Each pixel the mean of those around it, some times over: close to a Gauss. */
export function blurred(grey: Grey, times: number): Grey {
  let { data } = grey;
  const { width, height } = grey;
  for (let n = 0; n < times; n++) {
    const out = new Float32Array(data.length);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let [sum, of] = [0, 0];
        for (let dy = -1; dy <= 1; dy++)
          for (let dx = -1; dx <= 1; dx++) {
            const [px, py] = [x + dx, y + dy];
            if (px < 0 || py < 0 || px >= width || py >= height) continue;
            sum += data[py * width + px]!;
            of += 1;
          }
        out[y * width + x] = sum / of;
      }
    data = out;
  }
  return { width, height, data };
}

export const grainy = (grey: Grey, deviation: number, seed: number): Grey => {
  const random = chance(seed);
  // Twelve even chances added up are close to Gauss, of variance 1.
  const gauss = () => Array.from({ length: 12 }, random).reduce((a, b) => a + b, -6);
  return changed(grey, (value) => value + gauss() * deviation);
};

/**
 * Discs of many sizes that cover one another, small ones most: as much detail of each size and way as pictures of things have
 * (the dead leaves model; Lee, Mumford and Huang 2001).
 */
export function leaves(width: number, height: number, seed: number): Grey {
  const random = chance(seed);
  const data = new Float32Array(width * height).fill(110);
  for (let n = 0; n < (width * height) / 60; n++) {
    const radius = 2.5 / (0.02 + random());
    const [cx, cy, grey] = [random() * width, random() * height, 30 + random() * 190];
    for (let y = max(0, round(cy - radius)); y <= min(height - 1, cy + radius); y++)
      for (let x = max(0, round(cx - radius)); x <= min(width - 1, cx + radius); x++)
        if ((x - cx) ** 2 + (y - cy) ** 2 <= radius * radius) data[y * width + x] = grey;
  }
  return { width, height, data };
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
  colour: readonly [number, number, number];
}

/** Boxes of many sizes and colours in a world of 1,000 × 700. */
export function world(seed: number, many = 160): Box[] {
  const random = chance(seed);
  return Array.from({ length: many }, () => ({
    ...{ x: random() * 1000, y: random() * 700, w: 10 + random() * 90, h: 10 + random() * 70 },
    colour: [40 + random() * 180, 40 + random() * 180, 40 + random() * 180] as const,
  }));
}

const painted = new WeakMap<readonly Box[], Uint8Array>();

/** The world as it is looked at, pixel by pixel. */
function paint(boxes: readonly Box[]): Uint8Array {
  const known = painted.get(boxes);
  if (known) return known;
  const data = new Uint8Array(1000 * 700 * 3);
  for (let i = 0; i < data.length; i++) data[i] = i % 3 === 0 ? 96 : i % 3 === 1 ? 90 : 84;
  for (const { x, y, w, h, colour } of boxes)
    for (let py = round(y); py < min(700, y + h); py++)
      for (let px = round(x), at = (py * 1000 + px) * 3; px < min(1000, x + w); px++, at += 3)
        for (let i = 0; i < 3; i++) data[at + i] = colour[i]!;
  painted.set(boxes, data);
  return data;
}

/** What a camera sees of it: `scale` times as large, turned by `angle` about its middle, from a place; brighter by `gain`. */
export function shot(
  boxes: readonly Box[],
  { scale = 1, angle = 0, x = 0, y = 0, gain = 1, grain = 0, seed = 9 } = {},
): Rgb {
  const [width, height] = [480, 320];
  const random = chance(seed);
  const seen = paint(boxes);
  const data = new Uint8Array(width * height * 3);
  const [c, s] = [cos(-angle) / scale, sin(-angle) / scale];
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const ox = px - width / 2;
      const oy = py - height / 2;
      const wx = min(999, max(0, floor(c * ox - s * oy + 500 + x)));
      const wy = min(699, max(0, floor(s * ox + c * oy + 350 + y)));
      for (let i = 0; i < 3; i++) {
        const noise = grain === 0 ? 0 : (random() + random() + random() - 1.5) * 2 * grain;
        const value = seen[(wy * 1000 + wx) * 3 + i]! * gain + noise;
        data[(py * width + px) * 3 + i] = min(255, max(0, value));
      }
    }
  return { width, height, data };
}
