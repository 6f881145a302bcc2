// `npm run outside`: hashes, the Laplacian, keypoints and the registration of pictures against a general image library
// (OpenCV, through Debian's python3-opencv) on the same pixels of open pictures. Each tolerance says where it comes from.
import { execFileSync, spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ensureBuilt, ensureInstalled, ensureTools, ROOT } from './bootstrap.mjs';

await ensureInstalled();
await ensureBuilt();
const PYTHON = '/usr/bin/python3';
if (!(await ensureTools({ ffmpeg: 'ffmpeg' }, 'the outside checks'))) process.exit(1);
const { default: sharp } = await import('sharp');
const { real } = await import('./bench/takes/real.mjs');
const core = createRequire(import.meta.url)('@arkiv/core');
if (spawnSync(PYTHON, ['-c', 'import cv2']).status !== 0) {
  console.error('Missing: apt-get install python3-opencv opencv-doc. Install and run this again.');
  process.exit(1);
}

const folder = mkdtempSync(path.join(os.tmpdir(), 'arkiv-outside-'));
let files = 0;
const kept = ({ width, height, data }) => {
  const file = path.join(folder, `${(files += 1)}.grey`);
  writeFileSync(
    file,
    Uint8Array.from(data, (value) => Math.round(value)),
  );
  return { file, width, height };
};
/** A look with the greys that it was made from, and the picture at the size that sharpness is told at. */
async function opened(file) {
  const at = async (side) => {
    const image = sharp(file).toColourspace('srgb').removeAlpha();
    const { data, info } = await image
      .resize(side, side, { fit: 'inside', withoutEnlargement: side > core.LOOK_SIDE })
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { width: info.width, height: info.height, data };
  };
  const small = await at(core.LOOK_SIDE);
  return {
    look: core.lookOf(small),
    grey: core.greyOf(small),
    large: core.greyOf(await at(core.MEASURED_SIDE)),
  };
}

const failures = [];
const check = (name, value, limit, is) => {
  console.log(`${is ? 'ok  ' : 'FAIL'} ${name}: ${value} (${limit})`);
  if (!is) failures.push(name);
};

try {
  const frames = await real(path.join(ROOT, '.cache', 'takes', 'real'), 1);
  const all = [];
  for (const frame of frames.filter(({ source }) => source !== 'drifted'))
    all.push({ ...frame, ...(await opened(frame.file)) });
  // Neighbours of a series, and as many pictures that have nothing to do with each other.
  const pairs = [];
  for (let i = 1; i < all.length; i++) pairs.push([all[i - 1], all[i], all[i - 1].take === all[i].take]);
  const singles = all.filter(({ source }) => source === 'stills');
  for (let i = 0; i < singles.length; i++) {
    const other = singles[(i + 7) % singles.length];
    if (other.take !== singles[i].take && other.subjects !== singles[i].subjects)
      pairs.push([singles[i], other, false]);
  }
  const asked = {
    pictures: all.map(({ look, large }) => {
      const { across, down } = core.sharpnessOf(large);
      const size = core.tileSize(large);
      const { width, height, luma } = look.small;
      return { small: kept({ width, height, data: luma }), grey: kept(large), across, down, size };
    }),
    pairs: pairs.map(([a, b]) => {
      const { way } = core.commonOf(a.look.points, b.look.points);
      const matrix = way && [
        [way.a, -way.b, way.dx],
        [way.b, way.a, way.dy],
      ];
      return { first: kept(a.grey), second: kept(b.grey), way: matrix };
    }),
  };
  const question = path.join(folder, 'asked.json');
  writeFileSync(question, JSON.stringify(asked));
  const answer = JSON.parse(
    execFileSync(PYTHON, [path.join(ROOT, 'tools/outside/vision.py'), question], { maxBuffer: 1e9 }),
  );

  // Ours are made of luma that was not rounded yet: a place in a hundred lies so near to its limit.
  for (const [name, ofLook] of [
    ['cosine', ({ dct }) => dct],
    ['difference', ({ difference }) => difference],
  ]) {
    let off = 0;
    answer.pictures.forEach((picture, i) => {
      const own = ofLook(all[i].look);
      picture[name].forEach((bit, at) => (off += ((own[at >> 5] >>> (at & 31)) & 1) === bit ? 0 : 1));
    });
    const share = off / (64 * answer.pictures.length);
    check(`${name} hash, bits that differ`, share.toFixed(4), 'at most 0.01', share <= 0.01);
  }

  // The same sums of whole numbers: what rounding leaves.
  let worst = 0;
  answer.pictures.forEach(({ tiles }, i) => {
    const own = core.sharpnessOf(all[i].large);
    tiles.forEach(([energy, mean], t) => {
      const theirs = (100 / (mean + 12)) ** 2 * Math.max(0, energy - 1.1 * 20 * own.grain ** 2);
      worst = Math.max(worst, Math.abs(own.tiles[t] - theirs) / Math.max(1, theirs));
    });
  });
  check('the Laplacian of each tile, relative', worst.toExponential(1), 'at most 1e-4', worst <= 1e-4);

  // Both find the same way from one picture to the other, where both are sure of one.
  let [both, near, asGood, theirsAlone, oursAlone, unrelated] = [0, 0, 0, 0, 0, 0];
  const similar = [];
  pairs.forEach(([a, b, isOne], i) => {
    const { way, inliers } = core.commonOf(a.look.points, b.look.points);
    const { theirs, ours, library } = answer.pairs[i];
    const [oursSure, theirsSure] = [inliers >= 14, (theirs?.inliers ?? 0) >= 24];
    if (!isOne && a.source === 'stills' && b.source === 'stills') unrelated = Math.max(unrelated, inliers);
    if (!isOne) return;
    if (oursSure !== theirsSure) {
      if (oursSure) oursAlone += 1;
      else theirsAlone += 1;
    }
    if (!oursSure || !theirsSure) return;
    both += 1;
    const [[ta, tb, tx], [tc, td, ty]] = theirs.way;
    const { width, height } = a.grey;
    const corners = [0.25, 0.75].flatMap((x) => [0.25, 0.75].map((y) => [x * width, y * height]));
    const apart = Math.max(
      ...corners.map(([x, y]) =>
        Math.hypot(
          way.a * x - way.b * y + way.dx - (ta * x + tb * y + tx),
          way.b * x + way.a * y + way.dy - (tc * x + td * y + ty),
        ),
      ),
    );
    const isAsGood = typeof ours === 'number' && typeof library === 'number' && ours >= library - 0.02;
    if (apart <= 6) near += 1;
    else if (isAsGood) asGood += 1;
    if (ours !== undefined && ours !== null && library !== null) similar.push(ours - library);
  });
  // Six pixels: what either lets a keypoint lie off. What is nearer and what is further away go two ways from one side to the
  // other, and each may follow another one: then ours has to lay the one picture over the other as well as theirs does.
  const share = (near + asGood) / both;
  check(
    `ways that agree to six pixels (${near}), or lay over as well (${asGood}), of ${both} that both are sure of`,
    share.toFixed(3),
    'at least 0.9',
    share >= 0.9,
  );
  console.log(`     sure of a way alone: ours ${oursAlone}, theirs ${theirsAlone}`);
  check('keypoints of unrelated pictures that agree, most', unrelated, 'below 10', unrelated < 10);
  const mean = similar.reduce((x, y) => x + y, 0) / similar.length;
  check(
    'SSIM of what is laid over, ours less theirs, mean',
    mean.toFixed(4),
    'at least −0.02',
    mean >= -0.02,
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exitCode = failures.length > 0 ? 1 : 0;
