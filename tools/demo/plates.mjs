// The list of plates: what happens on the made-up stage, press of the shutter by press of the shutter.
// Each entry is data for window.renderPlate in scene/stage.js; positions in metres, angles in radians.

const WIDE = { at: [0.3, 1.9, 9.2], look: [0, 1.75, 0], fov: 30, aperture: 0.05 };
const MID = { at: [-0.9, 1.75, 6.6], look: [-0.35, 1.6, 0], fov: 29, aperture: 0.075 };
const BARON = { at: [-2.0, 2.15, 4.6], look: [-1.1, 2.0, 0.1], fov: 25, aperture: 0.085 };
const QUEEN = { at: [1.9, 2.0, 4.7], look: [1.05, 1.95, 0.1], fov: 25, aperture: 0.085 };

const baron = (more = {}) => ({ x: -1.1, z: 0.1, face: 0.3, turn: 0.1, left: 0.2, right: 0.35, ...more });
const queen = (more = {}) => ({ x: 1.05, z: 0.1, face: -0.3, turn: -0.1, left: 0.3, right: 0.2, ...more });
const steps = (n, make) => Array.from({ length: n }, (_, i) => make(i / (n - 1), i));

/** The baron leaps and waves: six phases of one movement. */
const leap = steps(6, (t, i) => ({
  name: `leap-${i + 1}`,
  camera: MID,
  baron: baron({
    x: -1.25 + t * 0.55,
    y: Math.sin(t * Math.PI) * 0.55,
    lean: 0.12 - t * 0.3,
    swing: Math.sin(t * 5),
    left: 0.1 + 0.9 * Math.sin(t * Math.PI),
    right: 0.3 + 0.7 * t,
    mouth: 0.3 + 0.6 * Math.sin(t * Math.PI),
    brow: t,
    open: i === 3 ? 0.15 : 1,
    turn: 0.15 + t * 0.2,
    tilt: -0.1 + t * 0.2,
  }),
  queen: queen({
    gaze: -1,
    turn: -0.35 - t * 0.1,
    open: i === 1 ? 0.1 : 0.95,
    mouth: 0.1 + 0.2 * t,
    brow: 0.4 * t,
  }),
}));
const baronClose = [1, 0.5, 0, 0.95].map((open, i) => ({
  name: `baron-${i + 1}`,
  camera: BARON,
  baron: baron({
    open,
    turn: 0.05 + i * 0.06,
    nod: i * 0.03,
    right: 0.55 + i * 0.13,
    mouth: 0.2 + 0.2 * (i % 2),
    gaze: 0.6,
    brow: i * 0.25,
  }),
  queen: queen({ gaze: -0.6 }),
}));
const queenClose = [0.95, 1, 0.05, 0.9].map((open, i) => ({
  name: `queen-${i + 1}`,
  camera: QUEEN,
  queen: queen({
    open,
    turn: -0.25 + i * 0.1,
    tilt: 0.1 - i * 0.06,
    left: 0.5 + i * 0.12,
    mouth: i === 3 ? 0.8 : 0.25,
    gaze: -0.5 + i * 0.3,
  }),
  baron: baron({ open: 0.9 }),
}));
const duet = steps(4, (t, i) => ({
  name: `duet-${i + 1}`,
  camera: { ...WIDE, at: [0.3 - t * 0.5, 1.9, 9.2] },
  baron: baron({
    x: -0.95 + t * 0.3,
    turn: 0.5,
    left: 0.3 + t * 0.5,
    right: 0.8 - t * 0.3,
    gaze: 0.8,
    lean: -0.05 - 0.05 * t,
    swing: t,
  }),
  queen: queen({
    x: 0.95 - t * 0.3,
    turn: -0.5,
    right: 0.3 + t * 0.6,
    left: 0.75,
    gaze: -0.8,
    lean: 0.06 * t,
    open: i === 2 ? 0.1 : 1,
  }),
}));
const bow = steps(3, (t, i) => ({
  name: `bow-${i + 1}`,
  camera: { ...WIDE, fov: 27 },
  baron: baron({
    x: -0.7,
    face: 0.05,
    nod: 0.15 + t * 0.5,
    left: 0.1,
    right: 0.1 + t * 0.3,
    open: 1 - t * 0.7,
  }),
  queen: queen({
    x: 0.7,
    face: -0.05,
    nod: 0.1 + t * 0.45,
    left: 0.15 + t * 0.3,
    right: 0.1,
    open: 1 - t * 0.6,
  }),
}));
/** The second body stands at the side of the house and sees the same leap and the same bow. */
const SIDE = { at: [4.4, 1.35, 5.6], look: [-0.5, 1.65, 0], fov: 20, aperture: 0.09 };
const leapFromSide = leap.slice(1, 5).map((plate, i) => ({ ...plate, name: `side-${i + 1}`, camera: SIDE }));
const bowFromSide = bow.map((plate, i) => ({
  ...plate,
  name: `call-${i + 1}`,
  camera: { ...SIDE, at: [4.2, 1.5, 6.4], look: [0, 1.35, 0], fov: 21 },
}));
const empty = [{ name: 'stage-1', camera: { ...WIDE, fov: 36 }, key: 0.6 }];

/** The potter's table: ten bowls that differ in glaze and throw, seen the same way, as a catalogue wants it. */
const TABLE = { at: [0.06, 0.26, 0.72], look: [0, 0.04, 0], fov: 22, aperture: 0.011 };
const BOWLS = [
  ['celadon', 1],
  ['celadon', 1.03],
  ['oatmeal', 0.98],
  ['oatmeal', 1.05],
  ['tenmoku', 1],
  ['tenmoku', 0.95],
  ['cobalt', 1.02],
  ['ash', 0.97],
  ['ash', 1.04],
  ['shino', 1],
];
const bowls = BOWLS.map(([glaze, size], i) => ({
  name: `bowl-${i + 1}`,
  scene: 'pottery',
  camera: { ...TABLE, at: [0.06 + ((i * 7) % 5) * 0.004, 0.26, 0.72] },
  pieces: [{ shape: 'bowl', size, glaze, seed: 40 + i, turn: i * 1.7 }],
}));
const FAMILY = [
  { shape: 'jug', glaze: 'ash', seed: 71, x: -0.17, z: -0.12, turn: 0.5 },
  { shape: 'bowl', glaze: 'celadon', seed: 72, x: 0.03, z: 0.05 },
  { shape: 'beaker', glaze: 'tenmoku', seed: 73, x: 0.2, z: -0.06 },
  { shape: 'beaker', glaze: 'cobalt', seed: 74, x: 0.27, z: 0.06, size: 0.96 },
  { shape: 'vase', glaze: 'shino', seed: 75, x: 0.11, z: -0.24, branch: true },
];
const still = [
  {
    name: 'family-1',
    camera: { at: [0.05, 0.36, 1.25], look: [0.04, 0.1, -0.08], fov: 24, aperture: 0.012 },
    pieces: FAMILY,
    cloth: { x: 0.02, z: 0 },
  },
  {
    name: 'family-2',
    camera: { at: [-0.42, 0.3, 1.1], look: [0.04, 0.09, -0.08], fov: 24, aperture: 0.014 },
    pieces: FAMILY,
    cloth: { x: 0.02, z: 0 },
  },
  {
    name: 'jug-1',
    camera: { at: [0.1, 0.24, 0.95], look: [0.015, 0.11, 0], fov: 22, aperture: 0.012 },
    pieces: [
      { shape: 'jug', glaze: 'oatmeal', seed: 81, turn: 0.35 },
      { shape: 'beaker', glaze: 'oatmeal', seed: 82, x: -0.16, z: -0.1 },
    ],
  },
  {
    name: 'jug-2',
    camera: { at: [0.1, 0.24, 0.95], look: [0.015, 0.11, 0], fov: 22, aperture: 0.012 },
    pieces: [
      { shape: 'jug', glaze: 'oatmeal', seed: 81, turn: -0.3 },
      { shape: 'beaker', glaze: 'oatmeal', seed: 82, x: -0.16, z: -0.1 },
    ],
  },
  {
    name: 'stack-1',
    camera: { at: [-0.12, 0.22, 0.8], look: [0, 0.08, 0], fov: 22, aperture: 0.016 },
    pieces: [0, 1, 2, 3].map((i) => ({
      shape: 'bowl',
      glaze: ['ash', 'oatmeal', 'celadon', 'cobalt'][i],
      seed: 90 + i,
      y: i * 0.034,
      size: 1 - i * 0.01,
      x: i * 0.002,
      turn: i,
    })),
    cloth: { x: 0, z: 0, turn: -0.3 },
  },
  {
    name: 'rim-1',
    camera: { at: [0.16, 0.17, 0.42], look: [0.02, 0.06, 0], fov: 20, aperture: 0.016, focus: 0.4 },
    pieces: [{ shape: 'bowl', glaze: 'tenmoku', seed: 44, turn: 2 }],
  },
  {
    name: 'vase-1',
    camera: { at: [0.0, 0.36, 1.35], look: [0, 0.25, 0], fov: 27, aperture: 0.016 },
    pieces: [
      { shape: 'vase', glaze: 'celadon', seed: 95, branch: true },
      { shape: 'open', glaze: 'shino', seed: 96, x: 0.26, z: -0.16 },
    ],
  },
  {
    name: 'setting-1',
    camera: { at: [0.0, 0.72, 0.56], look: [0.0, 0, 0.0], fov: 28, aperture: 0.01 },
    pieces: [
      { shape: 'plate', glaze: 'oatmeal', seed: 101, size: 1.05 },
      { shape: 'bowl', glaze: 'cobalt', seed: 102, y: 0.013, size: 0.86 },
      { shape: 'beaker', glaze: 'ash', seed: 103, x: 0.2, z: -0.1 },
      { shape: 'open', glaze: 'celadon', seed: 104, x: -0.27, z: -0.08 },
    ],
    cloth: { x: 0.02, z: 0.02, turn: 0.05 },
  },
].map((plate) => ({ ...plate, scene: 'pottery' }));

/** The regatta: yachts cross, round the mark, finish; and the pond from end to end for a panorama. */
const LOW = { at: [0.4, 0.62, 6.4], look: [0, 0.62, 0], fov: 21, aperture: 0.05 };
const race = steps(6, (t, i) => ({
  name: `race-${i + 1}`,
  camera: LOW,
  time: 3 + i * 0.14,
  yachts: [
    {
      name: 'red',
      x: -1.3 + t * 1.5,
      z: -0.4 + t * 0.9,
      heel: 0.26 + 0.07 * Math.sin(i),
      course: -0.55,
      speed: 0.01,
    },
    { name: 'blue', x: 0.1 + t * 1.2, z: -2 + t * 0.6, heel: 0.24 + 0.05 * Math.cos(i * 1.3), course: -0.45 },
    { name: 'green', x: 1.5 + t * 1.1, z: -3.6 + t * 0.5, heel: 0.22, course: -0.5 },
  ],
}));
const mark = steps(4, (t, i) => ({
  name: `mark-${i + 1}`,
  camera: { at: [1.5, 0.85, 4.2], look: [0.15, 0.5, 0], fov: 24, aperture: 0.05 },
  time: 9 + i * 0.16,
  buoys: [[0.75, 0.35, 0.08 * Math.sin(i * 1.4)]],
  yachts: [
    {
      name: 'white',
      x: -0.55 + 0.65 * t,
      z: -0.15 - 0.5 * t,
      course: -0.1 + t * 1.1,
      heel: 0.32 - 0.16 * t,
      sheet: 0.35 + 0.3 * t,
      speed: 0.012,
    },
    { name: 'blue', x: -2.1 + 0.7 * t, z: -1.3, course: 0.1, heel: 0.26 },
  ],
}));
const solo = steps(3, (t, i) => ({
  name: `solo-${i + 1}`,
  camera: { at: [-0.6 + t * 0.5, 0.5, 4.6], look: [-0.1 + t * 0.5, 0.66, 0], fov: 23, aperture: 0.06 },
  time: 20 + i * 0.2,
  yachts: [
    { name: 'green', x: -0.15 + t * 0.5, z: 0, course: 0.25, heel: 0.16 + 0.2 * t, sheet: 0.45, speed: 0.01 },
  ],
}));
const pond = [-33, -11, 11, 33].map((degrees, i) => {
  const a = (degrees * Math.PI) / 180;
  return {
    name: `pond-${i + 1}`,
    camera: {
      at: [0, 1.65, 10.5],
      look: [Math.sin(a) * 10, 1.85, 10.5 - Math.cos(a) * 10],
      fov: 26,
      aperture: 0.006,
    },
    time: 40,
    ripple: 6,
    yachts: [
      { name: 'red', x: -1.2, z: -1, course: 0.2 },
      { name: 'white', x: 2.6, z: -3, course: 0.3, heel: 0.24 },
      { name: 'blue', x: -5.2, z: -2, course: 0.15 },
      { name: 'green', x: 6.1, z: 1, course: 2.7, lee: -1 },
    ],
  };
});
const regatta = [...race, ...mark, ...solo, ...pond].map((plate) => ({
  exposure: 0.82,
  samples: 12,
  ...plate,
  scene: 'pond',
}));

export const PLATES = [
  ...leap,
  ...baronClose,
  ...queenClose,
  ...duet,
  ...bow,
  ...empty,
  ...bowls,
  ...still,
  ...regatta,
  ...leapFromSide,
  ...bowFromSide,
].map((plate, i) => ({
  ...plate,
  seed: 100 + i,
}));
export const PLATE_WIDTH = 1500;
export const PLATE_HEIGHT = 1000;
