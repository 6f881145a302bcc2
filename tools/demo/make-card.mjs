// Makes the demo card: about 60 frames of a puppet theatre's press night, derived from the plates.
// `node tools/demo/make-card.mjs --out <folder> [--seed 1] [--side 3000]`; the same seed gives the same bytes.
import { mkdir, readFile, rename, rm, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { bayer, developShot } from './develop.mjs';
import { seeded } from './random.mjs';
import { wrapJpeg, writeDng } from './tiff.mjs';

const here = path.dirname(fileURLToPath(import.meta.url));
/** An invented camera. */
const BODY = {
  make: 'Ockham',
  model: 'Ockham Five',
  serial: 'OK5-004217',
  lens: 'Ockham 35-90mm f/2.8',
  folder: 'OCKHM',
  prefix: 'OCK_',
};
const OFFSET = '+02:00';
/** The evening's first frame. The counter is near its end, so the card goes over into a second folder. */
const START = Date.parse('2026-10-16T19:38:12Z');
const FIRST_NUMBER = 9968;

const range = (prefix, from, to) => Array.from({ length: to - from + 1 }, (_, i) => `${prefix}-${from + i}`);

/** The evening: what was shot, how fast, and what went wrong. `wait` in seconds before the first frame. */
const EVENING = [
  { plates: ['stage-1', 'stage-1', 'stage-1'], wait: 0, gap: 0.25, stops: [-2, 0, 2], iso: 800, raw: true },
  { plates: range('duet', 1, 4), wait: 412, gap: 0.16, iso: 1600, zoom: 1 },
  { plates: range('duet', 1, 4), wait: 21, gap: 0.16, iso: 1600, zoom: 1.28, x: 0.5, y: 0.55 },
  {
    plates: range('leap', 1, 6),
    wait: 95,
    gap: 0.12,
    iso: 2000,
    zoom: 1,
    faults: { 2: { shake: 11 } },
    raw: true,
  },
  {
    plates: range('leap', 1, 6),
    wait: 14,
    gap: 0.12,
    iso: 2000,
    zoom: 1.22,
    x: 0.2,
    y: 0.35,
    faults: { 1: { defocus: 2.6 }, 4: { shake: 17 } },
  },
  { plates: range('baron', 1, 4), wait: 133, gap: 0.3, iso: 1250, raw: true },
  {
    plates: ['baron-1', 'baron-1', 'baron-4', 'baron-4'],
    wait: 6,
    gap: 0.6,
    iso: 1250,
    zoom: 1.12,
    faults: { 1: { defocus: 3.4 }, 3: { stops: -2.1, iso: 6400 } },
  },
  { plates: range('queen', 1, 4), wait: 48, gap: 0.3, iso: 1250 },
  {
    plates: ['queen-2', 'queen-4', 'queen-4'],
    wait: 9,
    gap: 0.5,
    iso: 1250,
    zoom: 1.15,
    x: 0.4,
    faults: { 0: { stops: 1.7 }, 2: { defocus: 1.4 } },
  },
  {
    plates: range('leap', 2, 5),
    wait: 71,
    gap: 0.12,
    iso: 2500,
    zoom: 1.02,
    x: 0.24,
    y: 0.5,
    orientation: 8,
  },
  {
    plates: ['queen-1', 'queen-4'],
    wait: 33,
    gap: 0.8,
    iso: 1600,
    zoom: 1.02,
    x: 0.42,
    y: 0.5,
    orientation: 8,
  },
  {
    plates: range('duet', 2, 4),
    wait: 240,
    gap: 0.2,
    iso: 3200,
    zoom: 1.6,
    x: 0.48,
    y: 0.62,
    faults: { 0: { stops: -1.6, iso: 8000 } },
  },
  { plates: range('bow', 1, 3), wait: 610, gap: 0.18, iso: 1600, zoom: 1 },
  {
    plates: range('bow', 1, 3),
    wait: 3,
    gap: 0.18,
    iso: 1600,
    zoom: 1.3,
    y: 0.6,
    faults: { 1: { shake: 9 } },
  },
  { plates: ['bow-1', 'duet-4', 'duet-3', 'stage-1'], wait: 18, gap: 1.4, iso: 1600, zoom: 1.06 },
];
const EXPOSURES = [
  [1, 125],
  [1, 160],
  [1, 200],
  [1, 250],
];

/** Every press of the shutter, in order. */
export function eveningShots(seed) {
  const random = seeded(seed);
  const shots = [];
  let at = START;
  let number = FIRST_NUMBER;
  let directory = 100;
  EVENING.forEach((scene, s) => {
    at += scene.wait * 1000;
    const x = scene.x ?? 0.5,
      y = scene.y ?? 0.5;
    scene.plates.forEach((plate, i) => {
      if (i > 0) at += scene.gap * 1000 * (0.9 + 0.2 * random());
      const time = new Date(Math.round(at)).toISOString();
      shots.push({
        plate,
        seed: random(),
        directory,
        number,
        local: time.slice(0, 19),
        millis: Number(time.slice(20, 23)),
        offset: OFFSET,
        body: BODY,
        orientation: scene.orientation ?? 1,
        zoom: (scene.zoom ?? 1) * (1.02 + 0.02 * random()),
        x: x + (random() - 0.5) * 0.12,
        y: y + (random() - 0.5) * 0.12,
        stops: (scene.stops?.[i] ?? 0) + (random() - 0.5) * 0.12,
        iso: scene.iso,
        exposure: EXPOSURES[(s + (scene.stops ? i : 0)) % EXPOSURES.length],
        aperture: s % 3 === 0 ? 2.8 : 4,
        focal: Math.round(
          35 * (scene.zoom ?? 1) + (plate.startsWith('baron') || plate.startsWith('queen') ? 40 : 8),
        ),
        raw: Boolean(scene.raw),
        defocus: 0,
        shake: 0,
        ...scene.faults?.[i],
      });
      number += 1;
      if (number > 9999) [number, directory] = [1, directory + 1];
    });
  });
  return shots;
}

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

/** Writes the card into a folder that must not exist; a half-made card never stands under its name. */
export async function makeCard(out, { seed = 1, side = 3000, log = () => {} } = {}) {
  const making = `${out}.making`;
  await rm(making, { recursive: true, force: true });
  const width = side;
  const height = Math.round((side * 2) / 3 / 2) * 2;
  const shots = eveningShots(seed);
  const plates = new Map();
  const writeDated = async (file, bytes, shot) => {
    await writeFile(file, bytes);
    const time = Date.parse(`${shot.local}${shot.offset}`) / 1000;
    await utimes(file, time, time);
  };
  let next = 0;
  const lane = async () => {
    for (let shot = shots[next++]; shot; shot = shots[next++]) {
      const folder = path.join(making, 'DCIM', `${shot.directory}${BODY.folder}`);
      await mkdir(folder, { recursive: true });
      if (!plates.has(shot.plate))
        plates.set(shot.plate, await readFile(path.join(here, 'plates', `${shot.plate}.jpg`)));
      const { data, full, preview, thumb } = await developShot(plates.get(shot.plate), shot, width, height);
      const base = path.join(folder, `${BODY.prefix}${String(shot.number).padStart(4, '0')}`);
      await writeDated(`${base}.JPG`, wrapJpeg(full, preview, thumb, shot, width, height), shot);
      if (shot.raw) {
        const small = { bytes: thumb, width: 160, height: Math.round((160 * height) / width) };
        await writeDated(
          `${base}.DNG`,
          writeDng(bayer(data, width, height), full, small, shot, width, height),
          shot,
        );
      }
    }
  };
  // Four at once: while one is in our own loop, the library's threads have the others.
  await Promise.all([lane(), lane(), lane(), lane()]);
  const noted = shots[12];
  await writeDated(
    path.join(making, 'DCIM', `${noted.directory}${BODY.folder}`, `${BODY.prefix}${noted.number}.WAV`),
    voiceNote(),
    noted,
  );
  await mkdir(path.join(making, 'MISC'), { recursive: true });
  await writeDated(
    path.join(making, 'MISC', 'COUNTER.DAT'),
    Buffer.from(`frames=${shots.length}\n`),
    shots.at(-1),
  );
  await rename(making, out);
  log(`${shots.length} frames in ${path.basename(out)}`);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const option = (name, otherwise) =>
    process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : otherwise;
  const out = option('--out');
  if (!out) throw new Error('Say where: --out <folder>');
  await mkdir(path.dirname(path.resolve(out)), { recursive: true });
  await makeCard(path.resolve(out), {
    seed: Number(option('--seed', 1)),
    side: Number(option('--side', 3000)),
    log: console.log,
  });
}
