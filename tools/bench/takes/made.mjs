// A made shoot whose takes are known: the demo's plates as a photographer would have shot them, with the cases that are hard
// on purpose. A seed decides order, gaps, drift, exposure and what goes wrong.
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { developPixels } from '../../demo/develop.mjs';
import { seeded } from '../../demo/random.mjs';

const range = (prefix, from, to) => Array.from({ length: to - from + 1 }, (_, i) => `${prefix}-${from + i}`);

/**
 * Subjects: what is photographed, in parts that follow each other. `plates` in order, `gap` seconds between frames,
 * `zoom` of the part, `wait` seconds before it. Parts of one subject are one take: the same subject, reframed by no more
 * than half, with nothing else between, within minutes. `moment`: what other takes show as well; pairs of these are not scored, as
 * only whoever was there could say.
 */
const SUBJECTS = [
  { name: 'stage', parts: [{ plates: ['stage-1', 'stage-1', 'stage-1'], gap: 0.25, stops: [-2, 0, 2] }] },
  {
    name: 'duet',
    moment: 'duet',
    parts: [
      { plates: range('duet', 1, 4), gap: 0.16 },
      { plates: range('duet', 1, 4), gap: 0.16, zoom: 1.28, wait: 21 },
    ],
  },
  {
    name: 'leap',
    moment: 'leap',
    parts: [
      { plates: range('leap', 1, 6), gap: 0.12 },
      { plates: range('leap', 1, 6), gap: 0.12, zoom: 1.22, wait: 14 },
    ],
  },
  { name: 'side', moment: 'leap', parts: [{ plates: range('side', 1, 4), gap: 0.14 }] },
  {
    name: 'baron',
    parts: [
      { plates: range('baron', 1, 4), gap: 0.3 },
      { plates: ['baron-1', 'baron-4', 'baron-4'], gap: 1.6, zoom: 1.12, wait: 6 },
    ],
  },
  {
    name: 'queen',
    parts: [
      { plates: range('queen', 1, 4), gap: 0.3 },
      { plates: ['queen-2', 'queen-4'], gap: 1.5, zoom: 1.15, wait: 9 },
    ],
  },
  { name: 'bow', parts: [{ plates: range('bow', 1, 3), gap: 0.18 }] },
  { name: 'call', parts: [{ plates: range('call', 1, 3), gap: 0.2 }] },
  ...Array.from({ length: 10 }, (_, i) => ({
    name: `bowl-${i + 1}`,
    parts: [
      { plates: Array(3).fill(`bowl-${i + 1}`), gap: 0.4, stops: [0, -1.7, 1.7], still: true },
      { plates: Array(2).fill(`bowl-${i + 1}`), gap: 2.6, zoom: 1.3, wait: 14 },
    ],
  })),
  { name: 'family', parts: [{ plates: ['family-1', 'family-1', 'family-2'], gap: 6 }] },
  { name: 'jug', parts: [{ plates: ['jug-1', 'jug-2', 'jug-2'], gap: 5 }] },
  { name: 'stack', parts: [{ plates: ['stack-1', 'stack-1', 'stack-1'], gap: 4 }] },
  { name: 'rim', parts: [{ plates: ['rim-1', 'rim-1', 'rim-1'], gap: 3 }] },
  { name: 'vase', parts: [{ plates: ['vase-1', 'vase-1'], gap: 6 }] },
  { name: 'setting', parts: [{ plates: ['setting-1', 'setting-1', 'setting-1'], gap: 5 }] },
  { name: 'race', parts: [{ plates: range('race', 1, 6), gap: 0.1 }] },
  { name: 'mark', parts: [{ plates: range('mark', 1, 4), gap: 0.12 }] },
  { name: 'solo', parts: [{ plates: range('solo', 1, 3), gap: 0.15 }] },
  { name: 'pond', parts: [{ plates: range('pond', 1, 4), gap: 1.9, still: true, pan: true }] },
  // Nothing to see: only the time tells.
  { name: 'cap-1', parts: [{ plates: ['black'], gap: 1 }] },
  { name: 'cap-2', parts: [{ plates: ['black'], gap: 1 }] },
  { name: 'sky-1', parts: [{ plates: ['sky', 'sky', 'sky'], gap: 0.3 }] },
  { name: 'sky-2', parts: [{ plates: ['sky'], gap: 1 }] },
  { name: 'sky-3', parts: [{ plates: ['sky'], gap: 1 }] },
];

const SIZE = { width: 1080, height: 720 };

/** Pixels of a plate, or of what is none. */
async function plateOf(name, seed) {
  if (name === 'black') return { plain: [3, 3, 4] };
  if (name === 'sky') return { plain: [150 + (seed % 7), 180, 215] };
  return { file: join(import.meta.dirname, '../../demo/plates', `${name}.jpg`) };
}

async function plainPicture([r, g, b]) {
  const { width, height } = SIZE;
  const data = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 3;
      // A sky is a little brighter at its foot.
      const light = 1 + (0.12 * y) / height;
      [data[i], data[i + 1], data[i + 2]] = [r * light, g * light, b * light];
    }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

/** `made(place, seed)`: one shoot: { file, source, take, moment, at (ms), body, kind }. */
export async function made(place, seed) {
  mkdirSync(place, { recursive: true });
  const random = seeded(seed * 1009 + 17);
  // One table, one bowl after the other; everything else as it comes.
  const table = random();
  const isBowl = ({ name }) => name.startsWith('bowl');
  const shuffled = SUBJECTS.map((subject) => ({
    subject,
    key: isBowl(subject) ? table + 1e-6 * random() : random(),
  })).sort((a, b) => a.key - b.key);
  const frames = [];
  let at = 0;
  for (const { subject } of shuffled) {
    at += 8 + random() ** 2 * 200;
    for (const { plates, gap, zoom = 1, wait = 0, stops = [], still = false, pan = false } of subject.parts) {
      at += wait;
      let [x, y] = [0.2 + 0.6 * random(), 0.2 + 0.6 * random()];
      const ev = (random() - 0.5) * 1.2;
      for (const [i, plate] of plates.entries()) {
        at += i === 0 ? 0 : gap * (0.9 + 0.2 * random());
        if (!still) [x, y] = [x + (random() - 0.5) * 0.25, y + (random() - 0.5) * 0.25];
        const wrong = random();
        const drift = still && !pan ? 0 : (random() - 0.5) * 0.08;
        const shot = {
          zoom: zoom * (1.02 + Math.max(0, drift)),
          ...{ x, y, orientation: 1, seed: random() },
          stops: (stops[i] ?? 0) + ev + (random() - 0.5) * 0.2,
          iso: 100 * 2 ** Math.floor(random() * 6.5),
          ...(wrong < 0.07
            ? { defocus: 1 + random() * 2 }
            : wrong < 0.14
              ? { shake: 5 + Math.floor(8 * random()) }
              : {}),
        };
        const file = join(place, `${seed}-${String(frames.length).padStart(3, '0')}-${plate}.jpg`);
        if (!existsSync(file)) {
          const { file: of, plain } = await plateOf(plate, frames.length);
          const { data, width, height } = await developPixels(
            of ?? (await plainPicture(plain)),
            plain ? { ...shot, defocus: undefined, shake: undefined } : shot,
            SIZE.width,
            SIZE.height,
          );
          await sharp(data, { raw: { width, height, channels: 3 } })
            .jpeg({ quality: 85 })
            .toFile(file);
        }
        frames.push({
          ...{ file, source: `made-${seed}`, take: subject.name, subjects: subject.moment ?? subject.name },
          ...{ at: Math.round(at * 1000), body: 'a', bias: stops[i] ?? null },
        });
      }
    }
  }
  return frames;
}
