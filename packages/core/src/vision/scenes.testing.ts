import type { Grey } from './grey';

// Looked up once: in a test's own world each look at a global costs as much as a pixel.
const { max, min, round } = Math;

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
