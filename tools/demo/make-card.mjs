// Makes the demo's cards, each derived from the plates in seconds.
// `node tools/demo/make-card.mjs --out <folder> [--card press-night-a] [--seed 1] [--side 3000] [--frames N]`; the same
// seed gives the same bytes. With --frames a large card for trying speed: its pictures repeat, its facts do not.
import { mkdir, readFile, rename, rm, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { writeClip } from './clip.mjs';
import { bayer, developPixels, developShot } from './develop.mjs';
import { CARDS, cardShots } from './season.mjs';
import { wrapJpeg, writeDng } from './tiff.mjs';

const here = path.dirname(fileURLToPath(import.meta.url));

/** A second of an eight-kilohertz tone that dies away: the voice note. */
function voiceNote() {
  const samples = 8000;
  const wav = Buffer.alloc(44 + samples * 2);
  wav.write('RIFF', 0);
  wav.writeUInt32LE(36 + samples * 2, 4);
  wav.write('WAVEfmt ', 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(1, 22);
  wav.writeUInt32LE(8000, 24);
  wav.writeUInt32LE(16000, 28);
  wav.writeUInt16LE(2, 32);
  wav.writeUInt16LE(16, 34);
  wav.write('data', 36);
  wav.writeUInt32LE(samples * 2, 40);
  for (let i = 0; i < samples; i++)
    wav.writeInt16LE(
      Math.round(9000 * Math.exp(-i / 2600) * Math.sin((i * 2 * Math.PI * 220) / 8000)),
      44 + i * 2,
    );
  return wav;
}

const CLIP = { width: 960, height: 540, perSecond: 12 };

/** Two seconds of a heat, panned by hand. */
async function clip(plates, shot) {
  const frames = [];
  for (let i = 0; i < 24; i++) {
    const plate = await plates(`race-${1 + (i % 12 < 6 ? i % 6 : 5 - (i % 6))}`);
    const view = {
      ...shot,
      orientation: 1,
      zoom: 1.5,
      x: 0.2 + i * 0.02,
      y: 0.5 + 0.02 * Math.sin(i),
      seed: i / 24,
    };
    const { data, width, height } = await developPixels(plate, view, CLIP.width, CLIP.height);
    frames.push(
      await sharp(data, { raw: { width, height, channels: 3 } })
        .jpeg({ quality: 78 })
        .toBuffer(),
    );
  }
  return writeClip(frames, { ...CLIP, made: Date.parse(`${shot.local}${shot.offset}`) });
}

const stem = (shot) => `${shot.body.prefix}${String(shot.number).padStart(4, '0')}`;
const folderOf = (root, shot) => path.join(root, 'DCIM', `${shot.directory}${shot.body.folder}`);

async function writeDated(file, bytes, shot) {
  await writeFile(file, bytes);
  const time = Date.parse(`${shot.local}${shot.offset}`) / 1000;
  await utimes(file, time, time);
}

function plateReader() {
  const plates = new Map();
  return (name) => {
    if (!plates.has(name)) plates.set(name, readFile(path.join(here, 'plates', `${name}.jpg`)));
    return plates.get(name);
  };
}

/** Four at once: while one is in our own loop, the picture library's threads have the others. */
async function inLanes(list, work) {
  let next = 0;
  const lane = async () => {
    while (next < list.length) await work(list[next], next++);
  };
  await Promise.all([lane(), lane(), lane(), lane()]);
}

/** Writes a card into a folder that must not exist; a half-made card never stands under its name. */
export async function makeCard(
  out,
  { card = 'press-night-a', seed = 1, side = 3000, frames = 0, log = () => {} } = {},
) {
  if (!CARDS[card])
    throw new Error(`There is no card “${card}”: choose one of ${Object.keys(CARDS).join(', ')}.`);
  const making = `${out}.making`;
  await rm(making, { recursive: true, force: true });
  const width = side;
  const height = Math.round((side * 2) / 3 / 2) * 2;
  const count =
    frames > 0
      ? await writeLarge(making, frames, seed, width, height)
      : await writeOne(making, CARDS[card], seed, width, height);
  await rename(making, out);
  log(`${count} frames in ${path.basename(out)}`);
}

async function writeOne(root, card, seed, width, height) {
  const shots = cardShots(card, seed);
  const plate = plateReader();
  // The clip takes a number of the camera's counter like any frame: those after it count on.
  if (card.clip !== undefined) for (const shot of shots.slice(card.clip + 1)) shot.number += 1;
  for (const shot of shots) await mkdir(folderOf(root, shot), { recursive: true });
  await inLanes(shots, async (shot, i) => {
    const { data, full, preview, thumb } = await developShot(await plate(shot.plate), shot, width, height);
    const base = path.join(folderOf(root, shot), stem(shot));
    const jpeg = wrapJpeg(full, preview, thumb, shot, width, height);
    await writeDated(`${base}.JPG`, jpeg, shot);
    if (shot.raw) {
      const small = { bytes: thumb, width: 160, height: Math.round((160 * height) / width) };
      const dng = writeDng(bayer(data, width, height), full, small, shot, width, height);
      await writeDated(`${base}.DNG`, dng, shot);
    }
    if (card.doubles?.includes(i)) {
      const again = path.join(root, 'DCIM', `190${shot.body.folder}`);
      await mkdir(again, { recursive: true });
      await writeDated(path.join(again, `${stem(shot)}.JPG`), jpeg, shot);
    }
  });
  if (card.note !== undefined) {
    const noted = shots[card.note];
    await writeDated(path.join(folderOf(root, noted), `${stem(noted)}.WAV`), voiceNote(), noted);
  }
  if (card.clip !== undefined) {
    const before = shots[card.clip];
    const shot = { ...before, number: before.number + 1 };
    await writeDated(path.join(folderOf(root, shot), `${stem(shot)}.MOV`), await clip(plate, shot), shot);
  }
  await mkdir(path.join(root, 'MISC'), { recursive: true });
  await writeDated(
    path.join(root, 'MISC', 'COUNTER.DAT'),
    Buffer.from(`frames=${shots.length}\n`),
    shots.at(-1),
  );
  return shots.length;
}

/** Distinct pictures of a large card: enough that no burst repeats itself, made in well under a minute. */
const POOL = 90;
/** Seconds from one frame of a large card to the next, and the pause after every twelfth. */
const STEP = 0.3;
const PAUSE = 40;

async function writeLarge(root, frames, seed, width, height) {
  const pool = Object.values(CARDS)
    .flatMap((card) => cardShots(card, seed))
    .filter((_, i, all) => i % Math.ceil(all.length / POOL) === 0);
  const plate = plateReader();
  const made = new Map();
  const developed = async (i) => {
    if (!made.has(i)) made.set(i, developShot(await plate(pool[i].plate), pool[i], width, height));
    return made.get(i);
  };
  const start = Date.parse('2026-10-31T08:00:00Z');
  const shots = Array.from({ length: frames }, (_, n) => {
    const scene = Math.floor(n / 12);
    const time = new Date(Math.round(start + (n * STEP + scene * PAUSE) * 1000)).toISOString();
    return {
      ...pool[n % pool.length],
      pool: n % pool.length,
      directory: 100 + Math.floor(n / 9999),
      number: 1 + (n % 9999),
      local: time.slice(0, 19),
      millis: Number(time.slice(20, 23)),
      raw: false,
    };
  });
  for (const shot of shots) await mkdir(folderOf(root, shot), { recursive: true });
  await inLanes(shots, async (shot) => {
    const { full, preview, thumb } = await developed(shot.pool);
    const jpeg = wrapJpeg(full, preview, thumb, shot, width, height);
    await writeDated(path.join(folderOf(root, shot), `${stem(shot)}.JPG`), jpeg, shot);
  });
  return shots.length;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const option = (name, otherwise) =>
    process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : otherwise;
  const out = option('--out');
  if (!out) throw new Error('Say where: --out <folder>');
  await mkdir(path.dirname(path.resolve(out)), { recursive: true });
  await makeCard(path.resolve(out), {
    card: option('--card', 'press-night-a'),
    seed: Number(option('--seed', 1)),
    side: Number(option('--side', 3000)),
    frames: Number(option('--frames', 0)),
    log: console.log,
  });
}
