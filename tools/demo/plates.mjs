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
const empty = [{ name: 'stage-1', camera: { ...WIDE, fov: 36 }, key: 0.6 }];

export const PLATES = [...leap, ...baronClose, ...queenClose, ...duet, ...bow, ...empty].map((plate, i) => ({
  ...plate,
  seed: 100 + i,
}));
export const PLATE_WIDTH = 1500;
export const PLATE_HEIGHT = 1000;
