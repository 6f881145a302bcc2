// Open pictures and series for the grouping of takes, cut from what Debian's opencv-doc holds.
// Which pictures are one take stands here, looked at one by one; nothing is told by the algorithm that is measured.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { join } from 'node:path';
import sharp from 'sharp';
import { developPixels } from '../../demo/develop.mjs';
import { seeded } from '../../demo/random.mjs';

const DOC = '/usr/share/doc/opencv-doc';
const DATA = join(DOC, 'examples/data');

/**
 * People who cross a square, before a camera that stands still (768 × 576, ten frames a second): who stands where, at
 * which second, by letter. Each is cut out as a photographer would frame them; the ground behind them is the same for all.
 */
const WALKERS = [
  [0, 40, 48, 'a'],
  [4, 153, 55, 'c'],
  [14, 195, 60, 'd'],
  [18, 159, 67, 'ef'],
  [26, 122, 65, 'h'],
  [44, 167, 68, 'r'],
  [48, 155, 78, 'ijk'],
  [60, 152, 96, 'l'],
  [64, 120, 58, 'm'],
  [66.8, 150, 80, 'n'],
  [76, 136, 66, 'o'],
];

/** Where pictures come from, and what they may be used by. */
export const SOURCES = {
  walkers: 'vtest.avi of opencv-doc (3-clause BSD / Apache 2.0)',
  clips: 'box.mp4, cup.mp4 and tree.avi of opencv-doc (3-clause BSD / Apache 2.0)',
  stills: 'pairs of pictures of opencv-doc (3-clause BSD / Apache 2.0)',
  drifted: 'pictures of opencv-doc, changed by a seed',
};

/** Frames of a clip as JPEGs: `at` in seconds, cut out where asked. */
function cutFrame(clip, at, into, filter) {
  if (existsSync(into)) return into;
  const args = ['-nostdin', '-v', 'fatal', '-y', '-ss', String(at), '-i', clip, '-frames:v', '1'];
  execFileSync('ffmpeg', [...args, ...(filter ? ['-vf', filter] : []), '-q:v', '2', into]);
  return into;
}

function unpacked(name, place) {
  const into = join(place, name);
  if (!existsSync(into))
    writeFileSync(into, gunzipSync(readFileSync(join(DOC, 'opencv4/html', `${name}.gz`))));
  return into;
}

/** Bursts of four, 0.2 s apart, of each who walks by. */
function walkers(place) {
  const size = { w: 200, h: 150 };
  return WALKERS.flatMap(([second, x, y, who], n) => {
    // Places are those of a sheet that showed 400 × 266 pixels from (240, 150) at 196 pixels across.
    const [cx, cy] = [240 + 2.04 * x - size.w / 2, 150 + 2.04 * y - size.h / 2];
    const left = Math.round(Math.max(0, Math.min(768 - size.w, cx)));
    const top = Math.round(Math.max(0, Math.min(576 - size.h, cy)));
    return [0, 1, 2, 3].map((k) => {
      const at = second + 0.1 + 0.2 * k;
      const cut = `crop=${size.w}:${size.h}:${left}:${top},scale=800:600:flags=bicubic`;
      const file = cutFrame(join(DATA, 'vtest.avi'), at, join(place, `walker-${n}-${k}.jpg`), cut);
      return {
        file,
        source: 'walkers',
        take: `walker-${n}`,
        subjects: who.split('').map((letter) => `walker ${letter}`),
        at: at * 1000,
        body: 'still',
      };
    });
  });
}

/** Things held and turned before a camera: one subject each, in moments of three seconds with some seconds between. */
const CLIPS = [
  { clip: 'box.mp4', moments: [0.2, 5.2, 10.2], subject: 'box' },
  { clip: 'cup.mp4', moments: [0.2, 4.8], subject: 'cup' },
  { clip: 'tree.avi', moments: [1, 12, 23], subject: 'tree' },
];

function clips(place) {
  return CLIPS.flatMap(({ clip, moments, subject }) => {
    const whole = clip.endsWith('.avi') ? join(DATA, clip) : unpacked(clip, place);
    return moments.flatMap((second, n) =>
      [0, 1, 2, 3, 4, 5].map((k) => {
        const at = second + 0.5 * k;
        const file = cutFrame(whole, at, join(place, `${subject}-${n}-${k}.jpg`), null);
        return {
          file,
          source: 'clips',
          take: subject,
          subjects: subject,
          at: at * 1000,
          body: clip,
        };
      }),
    );
  });
}

/** Pictures of one subject, from another side or a moment later, by file; when they were taken nobody wrote down. */
const STILLS = [
  ['aloeL.jpg', 'aloeR.jpg'],
  ['rubberwhale1.png', 'rubberwhale2.png'],
  ['basketball1.png', 'basketball2.png'],
  ['graf1.png', 'graf3.png'],
  ['left.jpg', 'right.jpg'],
  ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 11, 12, 13, 14].map((n) => {
    const number = String(n).padStart(2, '0');
    return [`left${number}.jpg`, `right${number}.jpg`];
  }),
];
/** Pictures of which no two show the same. */
const SINGLE = [
  ...['apple.jpg', 'orange.jpg', 'baboon.jpg', 'board.jpg', 'building.jpg', 'butterfly.jpg', 'fruits.jpg'],
  ...[
    'home.jpg',
    'messi5.jpg',
    'starry_night.jpg',
    'stuff.jpg',
    'squirrel_cls.jpg',
    'smarties.png',
    'cards.png',
  ],
  ...[
    'chicky_512.png',
    'leuvenA.jpg',
    'aero1.jpg',
    'box_in_scene.png',
    'sudoku.png',
    'licenseplate_motion.jpg',
  ],
];

function stills() {
  const one = (name, take) => ({
    file: join(DATA, name),
    ...{ source: 'stills', take, at: null, body: null },
    // The man with the board is the same in all of these; the walls of graf and of the board are their own.
    subjects: /^(left|right)\d/.test(name) ? 'board' : take,
  });
  return [
    ...STILLS.flatMap((names) => names.map((name) => one(name, names[0]))),
    ...SINGLE.map((name) => one(name, name)),
  ];
}

/**
 * Single pictures as somebody would have taken them four times: shifted, closer, darker or brighter by up to two stops, out of
 * focus, with grain, by a seed. What time it was nobody knows.
 */
async function drifted(place, seed) {
  const random = seeded(seed * 733 + 5);
  const frames = [];
  for (const name of [...SINGLE, ...STILLS.slice(0, 5).map(([first]) => first)]) {
    for (let n = 0; n < 4; n++) {
      const file = join(place, `drift-${seed}-${n}-${name.replace(/\W/g, '-')}.jpg`);
      const shot = {
        ...{ zoom: 1.03 + 0.35 * random() ** 2, x: random(), y: random(), seed: random(), orientation: 1 },
        stops: (random() - 0.5) * (random() < 0.3 ? 4 : 1),
        iso: 100 * 2 ** Math.floor(random() * 6),
        ...(random() < 0.2 ? { defocus: 0.6 + random() } : {}),
      };
      if (!existsSync(file)) {
        const plate = await sharp(join(DATA, name)).toColourspace('srgb').removeAlpha().png().toBuffer();
        const { data, width, height } = await developPixels(plate, shot, 900, 600);
        await sharp(data, { raw: { width, height, channels: 3 } })
          .jpeg({ quality: 85 })
          .toFile(file);
      }
      frames.push({ file, source: 'drifted', take: name, subjects: name, at: null, body: null });
    }
  }
  return frames;
}

/** `real(place, seed)`: all frames, cut into that folder: { file, source, take, subjects, at (ms or null), body }. */
export async function real(place, seed = 1) {
  if (!existsSync(DATA))
    throw new Error(
      `The open pictures are not at ${DATA}: Debian’s package opencv-doc holds them. Install it and run again.`,
    );
  mkdirSync(place, { recursive: true });
  return [...walkers(place), ...clips(place), ...stills(), ...(await drifted(place, seed))];
}

/** Whether two frames are one take: true, false, or null where only whoever was there could say. */
export function isOneTake(a, b) {
  if (a.take === b.take) return true;
  const [first, second] = [[a.subjects].flat(), [b.subjects].flat()];
  return shares(first, second) ? null : false;
}

const shares = (first, second) => first.some((one) => second.includes(one));
