// An invented studio's season: what lies on each of the demo's cards, press of the shutter by press of the shutter.
import { EARLIER } from './earlier.mjs';
import { seeded } from './random.mjs';

/** Invented cameras. Both write the same file names, as two bodies of one make do. */
export const BODIES = {
  a: {
    make: 'Ockham',
    model: 'Ockham Five',
    serial: 'OK5-004217',
    lens: 'Ockham 35-90mm f/2.8',
    folder: 'OCKHM',
    prefix: 'OCK_',
  },
  b: {
    make: 'Ockham',
    model: 'Ockham Three',
    serial: 'OK3-001186',
    lens: 'Ockham 70-180mm f/4',
    folder: 'OCKHM',
    prefix: 'OCK_',
  },
};
const range = (prefix, from, to) => Array.from({ length: to - from + 1 }, (_, i) => `${prefix}-${from + i}`);

/**
 * A scene: `plates` in order; `wait` seconds before its first frame, or `at` seconds after the card's start; `gap`
 * seconds between frames; `faults` by frame: what went wrong.
 */
const EVENING = [
  { plates: ['stage-1', 'stage-1', 'stage-1'], wait: 0, gap: 0.25, stops: [-2, 0, 2], iso: 800, raw: true },
  { plates: range('duet', 1, 4), wait: 412, gap: 0.16, iso: 1600, zoom: 1 },
  { plates: range('duet', 1, 4), wait: 21, gap: 0.16, iso: 1600, zoom: 1.28, x: 0.5, y: 0.55 },
  { plates: range('leap', 1, 6), wait: 95, gap: 0.12, iso: 2000, faults: { 2: { shake: 11 } }, raw: true },
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

/** The second body, at the side of the house: the same evening, by the same true time. What both saw, both pressed for. */
const EVENING_FROM_THE_SIDE = [
  { plates: ['stage-1', 'stage-1'], at: 31, gap: 2.1, iso: 1600, zoom: 1.4, x: 0.3, y: 0.6 },
  { plates: range('duet', 1, 4), at: 412.1, gap: 0.2, iso: 2500, zoom: 1.9, x: 0.25, y: 0.5 },
  { plates: range('duet', 1, 3), at: 433.9, gap: 0.2, iso: 2500, zoom: 1.9, x: 0.75, y: 0.5 },
  { plates: range('side', 1, 4), at: 529.4, gap: 0.14, iso: 2500, faults: { 3: { shake: 13 } } },
  { plates: range('side', 1, 4), at: 544.2, gap: 0.14, iso: 2500, zoom: 1.3, x: 0.35, y: 0.3 },
  {
    plates: range('side', 1, 4),
    at: 551,
    gap: 0.14,
    iso: 2500,
    zoom: 1.02,
    x: 0.4,
    orientation: 8,
    faults: { 0: { defocus: 3 } },
  },
  { plates: ['baron-2', 'baron-3', 'baron-4'], at: 684.5, gap: 0.5, iso: 3200, zoom: 1.5, x: 0.45, y: 0.2 },
  {
    plates: ['queen-1', 'queen-3', 'queen-4'],
    at: 734.8,
    gap: 0.5,
    iso: 3200,
    zoom: 1.5,
    x: 0.5,
    y: 0.25,
    faults: { 2: { stops: -1.9, iso: 8000 } },
  },
  { plates: ['side-2', 'side-3'], at: 1015, gap: 0.4, iso: 4000, zoom: 1.7, x: 0.3, y: 0.2 },
  { plates: range('call', 1, 3), at: 1704.1, gap: 0.2, iso: 2000 },
  { plates: range('call', 1, 3), at: 1707.4, gap: 0.2, iso: 2000, zoom: 1.25, faults: { 0: { shake: 9 } } },
  {
    plates: range('side', 1, 4),
    at: 1190,
    gap: 0.14,
    iso: 3200,
    zoom: 1.65,
    x: 0.62,
    y: 0.45,
    faults: { 1: { shake: 15 } },
  },
  { plates: range('bow', 1, 3), at: 1698.9, gap: 0.25, iso: 2500, zoom: 1.7, x: 0.35, y: 0.3 },
  { plates: ['call-1', 'call-3'], at: 1722.9, gap: 0.9, iso: 2000, zoom: 1.6, x: 0.5, y: 0.25 },
];

/** The potter's autumn: each bowl bracketed, then closer, then its detail; twice the focus was missed. */
const CATALOGUE = [
  ...Array.from({ length: 10 }, (_, i) => `bowl-${i + 1}`).flatMap((bowl, i) => [
    {
      plates: [bowl, bowl, bowl],
      wait: i === 0 ? 0 : 88 + ((i * 37) % 60),
      gap: 0.4,
      stops: [0, -1.7, 1.7],
      iso: 100,
      still: true,
      raw: i % 4 === 0,
    },
    {
      plates: [bowl, bowl],
      wait: 14,
      gap: 2.6,
      iso: 100,
      zoom: 1.3,
      y: 0.55,
      faults: i % 3 === 1 ? { 0: { defocus: 2.8 } } : {},
    },
    {
      plates: i % 2 === 0 ? [bowl, bowl] : [bowl],
      wait: 19,
      gap: 3.3,
      iso: 200,
      zoom: 1.9,
      x: 0.5,
      y: 0.5,
      faults: i === 4 ? { 1: { defocus: 4 } } : i === 7 ? { 0: { stops: 1.6 } } : {},
    },
  ]),
  { plates: ['family-1', 'family-1', 'family-1'], wait: 640, gap: 0.4, stops: [0, -1.7, 1.7], iso: 100 },
  { plates: ['family-1', 'family-2', 'family-2'], wait: 41, gap: 6, iso: 100, zoom: 1.08 },
  { plates: ['family-2', 'family-1'], wait: 63, gap: 5, iso: 200, zoom: 1.6, x: 0.6, y: 0.55 },
  { plates: ['jug-1', 'jug-2', 'jug-2'], wait: 210, gap: 5, iso: 100, faults: { 1: { defocus: 2.2 } } },
  { plates: ['jug-1', 'jug-2'], wait: 33, gap: 7, iso: 100, orientation: 8, x: 0.52 },
  {
    plates: ['stack-1', 'stack-1', 'stack-1'],
    wait: 180,
    gap: 4,
    iso: 200,
    faults: { 2: { stops: -2, iso: 3200 } },
  },
  { plates: ['rim-1', 'rim-1', 'rim-1'], wait: 95, gap: 3, iso: 200, faults: { 1: { defocus: 2 } } },
  { plates: ['vase-1', 'vase-1'], wait: 260, gap: 6, iso: 100, orientation: 8, x: 0.45 },
  { plates: ['vase-1'], wait: 30, gap: 1, iso: 100 },
  {
    plates: ['setting-1', 'setting-1', 'setting-1'],
    wait: 300,
    gap: 5,
    iso: 100,
    faults: { 0: { stops: -1.3 } },
  },
];

/** The regatta: heats pass in bursts, the mark is rounded, the pond is panned from end to end. */
const REGATTA = [
  { plates: range('pond', 1, 4), wait: 0, gap: 1.9, iso: 100, still: true, zoom: 1 },
  { plates: ['pond-2', 'pond-3'], wait: 75, gap: 4, iso: 100, zoom: 1.5, y: 0.6 },
  { plates: range('race', 1, 6), wait: 510, gap: 0.1, iso: 400 },
  {
    plates: range('race', 1, 6),
    wait: 31,
    gap: 0.1,
    iso: 400,
    zoom: 1.35,
    x: 0.35,
    y: 0.55,
    faults: { 2: { defocus: 3 }, 3: { defocus: 1.6 } },
  },
  { plates: range('mark', 1, 4), wait: 122, gap: 0.12, iso: 400, raw: true },
  {
    plates: range('mark', 1, 4),
    wait: 9,
    gap: 0.12,
    iso: 400,
    zoom: 1.4,
    x: 0.4,
    faults: { 0: { shake: 15 } },
  },
  { plates: range('solo', 1, 3), wait: 260, gap: 0.15, iso: 250 },
  { plates: range('solo', 1, 3), wait: 12, gap: 0.15, iso: 250, orientation: 8, x: 0.5 },
  {
    plates: range('race', 2, 6),
    wait: 420,
    gap: 0.1,
    iso: 500,
    zoom: 1.7,
    x: 0.6,
    y: 0.4,
    faults: { 0: { stops: 1.5 } },
  },
  { plates: ['pond-1', 'pond-4', 'pond-3'], wait: 600, gap: 8, iso: 160, zoom: 1.9, x: 0.5, y: 0.6 },
  { plates: range('mark', 2, 4), wait: 333, gap: 0.12, iso: 400, zoom: 1.75, x: 0.55, y: 0.4 },
  { plates: range('race', 1, 5), wait: 208, gap: 0.1, iso: 400, zoom: 1.15, orientation: 1, y: 0.4 },
  {
    plates: ['solo-1', 'solo-3', 'solo-2'],
    wait: 64,
    gap: 2,
    iso: 250,
    zoom: 1.5,
    y: 0.3,
    faults: { 1: { shake: 11 } },
  },
];
const REGATTA_FINISH = [
  { plates: range('race', 3, 6), wait: 0, gap: 0.1, iso: 500, zoom: 1.5, x: 0.2, y: 0.5 },
  { plates: range('solo', 1, 3), wait: 190, gap: 0.15, iso: 320, zoom: 1.2, x: 0.4 },
  {
    plates: range('mark', 1, 4),
    wait: 140,
    gap: 0.12,
    iso: 500,
    zoom: 1.2,
    x: 0.3,
    faults: { 3: { stops: -2, iso: 5000 } },
  },
  {
    plates: range('race', 1, 6),
    wait: 420,
    gap: 0.1,
    iso: 640,
    zoom: 1.9,
    x: 0.45,
    y: 0.45,
    faults: { 4: { shake: 13 } },
  },
  { plates: range('pond', 1, 4), wait: 900, gap: 2.1, iso: 200, still: true, zoom: 1.12, y: 0.5 },
  { plates: range('solo', 1, 3), wait: 310, gap: 0.15, iso: 320, orientation: 8, x: 0.45 },
  { plates: range('race', 2, 5), wait: 26, gap: 0.1, iso: 400, orientation: 8, x: 0.3, zoom: 1.05 },
  {
    plates: range('mark', 1, 3),
    wait: 180,
    gap: 0.12,
    iso: 400,
    zoom: 1.55,
    x: 0.7,
    y: 0.6,
    faults: { 1: { defocus: 2.4 } },
  },
  { plates: range('race', 1, 6), wait: 515, gap: 0.1, iso: 400, zoom: 1.06, faults: { 5: { shake: 9 } } },
  { plates: ['pond-2', 'pond-1'], wait: 700, gap: 5, iso: 125, zoom: 1.3, y: 0.35 },
  { plates: ['solo-2', 'solo-3'], wait: 45, gap: 1.2, iso: 250, zoom: 1.8, x: 0.5, y: 0.25 },
];

/**
 * The cards. `start` is the true local time of the first frame; `clock` seconds are added by the body's own, wrong
 * clock. `note` and `clip` tell after which frame a voice note was spoken or a clip shot; `doubles` are frames whose
 * files lie a second time, byte for byte, in another folder of the card.
 */
export const CARDS = {
  'press-night-a': {
    title: 'Press night',
    body: BODIES.a,
    start: '2026-10-16T19:38:12Z',
    offset: '+02:00',
    clock: 0,
    firstNumber: 9968, // near the counter's end, so the card goes over into a second folder
    directory: 100,
    scenes: EVENING,
    note: 12,
  },
  'press-night-b': {
    title: 'Press night',
    body: BODIES.b,
    start: '2026-10-16T19:38:12Z',
    offset: '+02:00',
    clock: -207, // three and a half minutes behind the first body
    firstNumber: 9971,
    directory: 100,
    scenes: EVENING_FROM_THE_SIDE,
  },
  catalogue: {
    title: 'Autumn catalogue',
    body: BODIES.a,
    start: '2026-09-24T09:05:40Z',
    offset: '+02:00',
    clock: 0,
    firstNumber: 412,
    directory: 104,
    scenes: CATALOGUE,
    doubles: [7, 8, 30],
  },
  'regatta-1': {
    title: 'Pond regatta',
    body: BODIES.a,
    start: '2026-10-04T10:12:05Z',
    offset: '+02:00',
    clock: 0,
    firstNumber: 507,
    directory: 105,
    scenes: REGATTA,
    note: 20,
    clip: 12,
  },
  'regatta-2': {
    title: 'Pond regatta',
    body: BODIES.a,
    start: '2026-10-04T12:03:31Z',
    offset: '+02:00',
    clock: 0,
    firstNumber: 507, // the counter was set back when the card was changed: the same names again
    directory: 105,
    scenes: REGATTA_FINISH,
  },
  ...Object.fromEntries(
    EARLIER.map(({ card, title, start, scenes }, i) => [
      card,
      {
        title,
        body: i % 2 === 0 ? BODIES.a : BODIES.b,
        start,
        offset: '+02:00',
        clock: 0,
        firstNumber: 40 + i,
        directory: 100 + i,
        scenes,
      },
    ]),
  ),
};
const EXPOSURES = [
  [1, 125],
  [1, 160],
  [1, 200],
  [1, 250],
];

/** Every press of the shutter on a card, in order. */
export function cardShots(card, seed) {
  const random = seeded(seed);
  const shots = [];
  const start = Date.parse(card.start);
  let at = start;
  let number = card.firstNumber;
  let directory = card.directory;
  card.scenes.forEach((scene, s) => {
    at = scene.at === undefined ? at + scene.wait * 1000 : start + scene.at * 1000;
    const x = scene.x ?? 0.5,
      y = scene.y ?? 0.5;
    const drift = scene.still ? 0.004 : 0.12;
    scene.plates.forEach((plate, i) => {
      if (i > 0) at += scene.gap * 1000 * (0.9 + 0.2 * random());
      const time = new Date(Math.round(at + card.clock * 1000)).toISOString();
      shots.push({
        plate,
        seed: random(),
        directory,
        number,
        local: time.slice(0, 19),
        millis: Number(time.slice(20, 23)),
        offset: card.offset,
        body: card.body,
        orientation: scene.orientation ?? 1,
        zoom: (scene.zoom ?? 1) * (1.02 + (scene.still ? 0.002 : 0.02) * random()),
        x: x + (random() - 0.5) * drift,
        y: y + (random() - 0.5) * drift,
        stops: (scene.stops?.[i] ?? 0) + (random() - 0.5) * (scene.still ? 0.02 : 0.12),
        iso: scene.iso,
        exposure: exposureOf(card, scene, s, i),
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

/** Shutter speeds: stage light asks for long ones, daylight for short; a bracket is made with the shutter. */
function exposureOf(card, scene, s, i) {
  if (card.scenes === EVENING || card.scenes === EVENING_FROM_THE_SIDE)
    return EXPOSURES[(s + (scene.stops ? i : 0)) % EXPOSURES.length];
  const base = card.scenes === CATALOGUE ? 30 : 1250;
  return [1, Math.round(base / 2 ** (scene.stops?.[i] ?? 0))];
}
