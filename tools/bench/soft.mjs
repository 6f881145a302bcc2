// Whether sharpness tells a soft picture from a sharp one of the same scene: made blur of open photographs, against the
// plain Laplacian in the same run; and single pictures that are known to be soft or shaken.
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import sharp from 'sharp';
import { ROOT } from '../bootstrap.mjs';
import { exposureTable } from '../demo/develop.mjs';
import { seeded } from '../demo/random.mjs';

const core = createRequire(import.meta.url)('@arkiv/core');
const KEPT = path.join(ROOT, '.cache', 'takes', 'soft');
/** Photographs of 2,500 to 5,300 pixels (CC0, CC BY 4.0 and CC BY-SA 4.0, by file); two of the fifteen are no photographs. */
const SCENES = '/usr/share/backgrounds';
const NONE = /umang|analogpattern/;
const OPEN = '/usr/share/doc/opencv-doc/examples/data';

/** Gaussian blur and the length of a movement to the side, in pixels of a preview of 2,560; stops beside the scene's own. */
const KINDS = [
  ...[-1, 0, 1].map((stops) => ({ sharp: true, stops })),
  ...[1, 1.6, 2.6].map((blur, i) => ({ blur, stops: i - 1 })),
  ...[5, 9].map((motion, i) => ({ motion, stops: i })),
];
/** Standard deviation of the grain, in greys of a preview: of a low ISO speed, and of a high one after the camera's own smoothing. */
const GRAINS = [1.5, 6];

const raw = ({ data, info }) => sharp(data, { raw: { width: info.width, height: info.height, channels: 3 } });
const pixels = (image) => image.raw().toBuffer({ resolveWithObject: true });

/** A preview of a scene as somebody would have taken it. */
async function taken(scene, { blur, motion, stops, grain, seed }) {
  let image = raw(scene);
  if (blur) image = image.blur(blur);
  if (motion) {
    const kernel = Array.from({ length: motion * motion }, (_, i) =>
      Math.floor(i / motion) === motion >> 1 ? 1 : 0,
    );
    image = image.convolve({ width: motion, height: motion, kernel });
  }
  const { data, info } = await pixels(image);
  const table = exposureTable(stops);
  const random = seeded(seed);
  for (let i = 0; i < data.length; i += 3) {
    const size = grain * Math.sqrt(-2 * Math.log(1 - random()));
    const turn = 2 * Math.PI * random();
    const [light, tint] = [size * Math.cos(turn), 0.5 * size * Math.sin(turn)];
    for (let c = 0; c < 3; c++)
      data[i + c] = Math.min(255, Math.max(0, table[data[i + c]] + light + (c - 1) * tint));
  }
  return raw({ data, info }).jpeg({ quality: 80 }).toBuffer();
}

/** Greys of a preview as they are measured. */
async function greys(preview, side) {
  const { data, info } = await pixels(
    sharp(preview)
      .toColourspace('srgb')
      .removeAlpha()
      .resize(side, side, { fit: 'inside', kernel: 'linear', withoutEnlargement: true }),
  );
  return core.greyOf({ width: info.width, height: info.height, data });
}

/** The variance of the Laplacian over the whole picture. */
function laplacian({ width, height, data }) {
  let [sum, squares, n] = [0, 0, 0];
  for (let y = 1; y < height - 1; y++)
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      const value = data[i - 1] + data[i + 1] + data[i - width] + data[i + width] - 4 * data[i];
      sum += value;
      squares += value * value;
      n += 1;
    }
  return squares / n - (sum / n) ** 2;
}

/** The area under the ROC curve: how often one of the first is above one of the second, ties by half. */
function area(first, second) {
  let above = 0;
  for (const a of first) for (const b of second) above += a > b ? 1 : a === b ? 0.5 : 0;
  return above / (first.length * second.length);
}

const MEASURES = {
  '': { side: core.MEASURED_SIDE, of: (grey) => core.sharpnessOf(grey).sharp ?? 0 },
  '.2560': { side: 2560, of: (grey) => core.sharpnessOf(grey).sharp ?? 0 },
  '.laplacian': { side: core.MEASURED_SIDE, of: laplacian },
};

async function scenes(log) {
  if (!existsSync(SCENES))
    throw new Error(
      `The open photographs are not at ${SCENES}: Debian’s package lomiri-wallpapers-16.04 holds them. Install it and run again.`,
    );
  mkdirSync(KEPT, { recursive: true });
  const found = [];
  for (const name of readdirSync(SCENES).filter((one) => one.endsWith('.jpg') && !NONE.test(one))) {
    log(`  ${name}`);
    let scene = null;
    const shots = [];
    for (const [n, kind] of KINDS.entries())
      for (const grain of GRAINS) {
        const file = path.join(KEPT, `${path.parse(name).name}-${n}-${grain}.jpg`);
        if (!existsSync(file)) {
          scene ??= await pixels(
            sharp(path.join(SCENES, name))
              .autoOrient()
              .resize(2560, 2560, { fit: 'inside', withoutEnlargement: true })
              .toColourspace('srgb')
              .removeAlpha(),
          );
          writeFileSync(file, await taken(scene, { ...kind, grain, seed: n * 31 + grain }));
        }
        const preview = readFileSync(file);
        const values = {};
        for (const [measure, { side, of }] of Object.entries(MEASURES))
          values[measure] = of(await greys(preview, side));
        shots.push({ sharp: kind.sharp === true, grain, values });
      }
    found.push(shots);
  }
  return found;
}

/** Areas within each scene, meant over all scenes. `grains`: which of them are compared with each other. */
function meanArea(all, measure, grains) {
  const areas = all.map((shots) => {
    const values = (isSharp) =>
      shots
        .filter(({ sharp: its, grain }) => its === isSharp && grains.includes(grain))
        .map(({ values: own }) => own[measure]);
    return area(values(true), values(false));
  });
  return areas.reduce((a, b) => a + b, 0) / areas.length;
}

/** Pictures of a general library that are out of focus or shaken on purpose. */
const SINGLE = {
  'text_defocus.jpg': 'soft',
  'text_motion.jpg': 'shaken',
  'licenseplate_motion.jpg': 'shaken',
};

const round = (n) => Number(n.toFixed(4));

export async function soft({ log }) {
  const results = [];
  const all = await scenes(log);
  for (const [name, grains, floor] of [
    ['takes.soft', GRAINS.slice(0, 1), 0.95],
    ['takes.soft.grain', GRAINS, 0.9],
  ])
    for (const measure of Object.keys(MEASURES)) {
      const value = round(meanArea(all, measure, grains));
      const own = measure === '' ? { floor, ratio: round(value / floor) } : { floor: '', ratio: '' };
      results.push({ name: `${name}${measure}`, value, unit: '0…1', ...own });
    }
  for (const [file, advice] of Object.entries(SINGLE)) {
    const preview = readFileSync(path.join(OPEN, file));
    const grey = await greys(preview, core.MEASURED_SIDE);
    const { sharp: its, shake } = core.sharpnessOf(grey);
    log(
      `  ${file}: sharp ${its?.toFixed(1)}, shaken ${shake.strength.toFixed(2)} at ${shake.angle.toFixed(0)}° (${advice})`,
    );
  }
  return results;
}
