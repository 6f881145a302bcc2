// What takes cost: what pictures are compared by, beside their previews; and grouping, at three sizes.
import { createRequire } from 'node:module';
import sharp from 'sharp';
import { alternate, compare, filesBelow, freshFolder, median } from './lib.mjs';
import { pictures } from './material.mjs';
import { seeded } from '../demo/random.mjs';

const require = createRequire(import.meta.url);
const { takesOf } = require('@arkiv/core');

/** Thumbnail and preview with the measures of the preview, against thumbnail and preview alone: in the same processes. */
async function features(files, rounds, log) {
  const { PictureMaker, SCREEN_SIDE, THUMB_SIDE } = require('@arkiv/server/dist/pictures/pictureMaker.js');
  const card = freshFolder('card');
  log(`making ${files} pictures of 24 megapixels …`);
  await pictures(card, files);
  const paths = filesBelow(card).filter((file) => file.endsWith('.JPG'));
  const maker = new PictureMaker();
  const over = async (measures) => {
    const start = performance.now();
    for (const file of paths) {
      const { screen } = await maker.previews(
        file,
        { input: file, orientation: null },
        THUMB_SIDE,
        SCREEN_SIDE,
      );
      if (measures) await maker.features(file, { input: screen, orientation: 1 });
    }
    return (performance.now() - start) / paths.length;
  };
  try {
    await over(true);
    const times = await alternate(
      rounds,
      () => over(true),
      () => over(false),
    );
    return compare('takes.features', 'ms a frame', times.ours, times.floor, { files });
  } finally {
    await maker.onApplicationShutdown();
  }
}

/** A shoot of so many frames with what was found of them: bursts, brackets and frames alone, of two bodies. */
function shoot(count) {
  const random = seeded(count);
  const frames = [];
  let at = 0;
  while (frames.length < count) {
    const several = random() < 0.6 ? 1 + Math.floor(random() * 9) : 1;
    at += 2 + random() ** 3 * 120;
    for (let i = 0; i < several && frames.length < count; i++) {
      at += i === 0 ? 0 : 0.1 + random() * 0.5;
      const close = i === 0 ? -6 + random() * 7 : 1 + random() * 3;
      frames.push({
        ...{ id: String(frames.length).padStart(26, '0'), body: random() < 0.3 ? 'b' : 'a', take: null },
        ...{ instant: Math.round(at * 1000), close, dx: random() * 0.1, dy: 0 },
        ...{ aperture: 4, exposure: 1 / (100 + i), iso: 100 },
      });
    }
  }
  return frames;
}

function grouping() {
  const results = [];
  const times = {};
  for (const [name, count, floor] of [
    ['takes.group1k', 1000, 0.1],
    ['takes.group10k', 10_000, 1],
    ['takes.group100k', 100_000, 12],
  ]) {
    const frames = shoot(count);
    const rounds = Array.from({ length: 5 }, () => {
      const start = performance.now();
      takesOf(frames);
      return (performance.now() - start) / 1000;
    });
    times[count] = median(rounds);
    const value = Number(times[count].toPrecision(3));
    results.push({
      ...{ name, value, unit: 's', floor, ratio: Number((value / floor).toPrecision(3)) },
      megabytes: Math.round(process.memoryUsage().rss / 1e6),
    });
  }
  return results;
}

export async function takesSpeed({ files = 12, rounds = 5, log }) {
  sharp.cache(false);
  // First, as its memory is told and the other's stays with the process.
  const groups = grouping();
  return [await features(files, rounds, log), ...groups];
}
