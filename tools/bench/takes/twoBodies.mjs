// Two bodies at one event, whose clocks are apart; and two that shot nothing in common. From the demo's plates: each photographer
// frames otherwise, presses when it suits them, and sees some moments that the other does not.
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { developPixels } from '../../demo/develop.mjs';
import { seeded } from '../../demo/random.mjs';

const range = (prefix, from, to) => Array.from({ length: to - from + 1 }, (_, i) => `${prefix}-${from + i}`);
/** What happens on a stage, as seen by the first body and, where there are plates from another side, by the second. */
const STAGE = [
  ...range('duet', 1, 4).map((plate) => [plate, plate]),
  ...range('leap', 2, 5).map((plate, i) => [plate, `side-${i + 1}`]),
  ...['baron', 'queen'].flatMap((name) => range(name, 1, 4).map((plate) => [plate, plate])),
  ...range('bow', 1, 3).map((plate) => [plate, plate]),
  ...range('call', 1, 3).map((plate) => [plate, plate]),
];
const WATER = [
  ...range('race', 1, 6).map((plate) => [plate, plate]),
  ...range('mark', 1, 4).map((plate) => [plate, plate]),
  ...range('solo', 1, 3).map((plate) => [plate, plate]),
  ...range('pond', 1, 4).map((plate) => [plate, plate]),
];
const TABLE = [
  ...range('bowl', 1, 10).map((plate) => [plate, plate]),
  ...['jug-1', 'jug-2', 'stack-1', 'rim-1', 'vase-1', 'setting-1', 'family-1'].map((plate) => [plate, plate]),
];
const EVENTS = [STAGE, WATER, TABLE];

const SIZE = { width: 1080, height: 720 };

/** When something happens, in seconds, and what: now and then nothing for minutes. */
function course(event, random, count) {
  const moments = [];
  let at = 60 * random();
  for (let n = 0; n < count; n++) {
    moments.push({ at, plates: event[Math.floor(random() * event.length)] });
    at += 4 + 30 * random() ** 2 + (random() < 0.12 ? 60 + 240 * random() : 0);
  }
  return moments;
}

/** What one of the two took of it: { file, at (ms, by its clock) }. */
async function body(place, name, moments, which, random, offset) {
  const frames = [];
  const own = { zoom: 1.05 + 0.35 * random(), stops: random() - 0.5 };
  for (const [n, { at, plates }] of moments.entries()) {
    // Each sees two in three of what happens, and presses when the finger does.
    if (random() > 0.67) continue;
    const begun = at + 0.9 * (random() + random() - 1);
    const shot = {
      ...{ zoom: own.zoom * (1 + 0.15 * random()), x: random(), y: random(), orientation: 1, seed: random() },
      ...{ stops: own.stops + (random() - 0.5) * 0.6, iso: 100 * 2 ** Math.floor(random() * 6) },
      ...(random() < 0.1 ? { defocus: 1 + random() } : {}),
    };
    const plate = plates[which];
    const file = join(place, `${name}-${n}-${plate}.jpg`);
    if (!existsSync(file)) {
      const from = join(import.meta.dirname, '../../demo/plates', `${plate}.jpg`);
      const { data, width, height } = await developPixels(from, shot, SIZE.width, SIZE.height);
      await sharp(data, { raw: { width, height, channels: 3 } })
        .jpeg({ quality: 85 })
        .toFile(file);
    }
    const several = 1 + Math.floor(4 * random() ** 2);
    for (let i = 0; i < several; i++)
      frames.push({ file, at: Math.round((begun + offset + i * 0.25) * 1000) });
  }
  return frames;
}

/** A pair of bodies at one event: { first, second, millis: what is to be added to the second's times }. */
export async function together(place, seed) {
  mkdirSync(place, { recursive: true });
  const random = seeded(seed * 9173 + 11);
  const moments = course(EVENTS[seed % EVENTS.length], random, 30 + Math.floor(40 * random()));
  const offset = (random() - 0.5) * 4 * 3600;
  return {
    first: await body(place, `${seed}-a`, moments, 0, random, 0),
    second: await body(place, `${seed}-b`, moments, 1, random, offset),
    millis: -offset * 1000,
  };
}

/** Two that shot nothing in common: another event by turns, or the same things on another day. */
export async function apart(place, seed) {
  mkdirSync(place, { recursive: true });
  const random = seeded(seed * 6967 + 5);
  const first = EVENTS[seed % EVENTS.length];
  const second = seed % 2 === 0 ? first : EVENTS[(seed + 1) % EVENTS.length];
  const count = () => 30 + Math.floor(40 * random());
  return {
    first: await body(place, `no-${seed}-a`, course(first, random, count()), 0, random, 0),
    second: await body(place, `no-${seed}-b`, course(second, random, count()), 1, random, 300 * random()),
  };
}
