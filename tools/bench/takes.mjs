// How well frames are grouped into takes: on made shoots and on open pictures, against what is simpler, in one run.
import { createRequire } from 'node:module';
import path from 'node:path';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { ROOT } from '../bootstrap.mjs';
import { made } from './takes/made.mjs';
import { closeBy, fitted } from './takes/leftOut.mjs';
import { isOneTake, real, SOURCES } from './takes/real.mjs';

const core = createRequire(import.meta.url)('@arkiv/core');
const { closest, LOOK_SIDE, LOOKED_BACK, likenessOf, MEASURED_SIDE, closeness, lookOf, takesOf } = core;

const KEPT = path.join(ROOT, '.cache', 'takes');
/** What weights and limits were tuned on, and what is reported. */
const TUNED = [1, 2, 3];
const REPORTED = [4, 5, 6];

/** A picture's look, made smaller in the steps in which the server does. */
export async function lookAt(file) {
  const measured = await sharp(file)
    .resize(MEASURED_SIDE, MEASURED_SIDE, { fit: 'inside', kernel: 'linear', withoutEnlargement: true })
    .toColourspace('srgb')
    .flatten({ background: '#000' })
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = measured.info;
  const { data, info } = await sharp(measured.data, { raw: { width, height, channels: 3 } })
    .resize(LOOK_SIDE, LOOK_SIDE, { fit: 'inside' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return lookOf({ width: info.width, height: info.height, data });
}

/** Frames with their looks, as shoots: what one source holds of one place, in order of time. */
async function looked(frames) {
  for (const frame of frames) frame.look = await lookAt(frame.file);
  const shoots = groupBy(frames, ({ source, body }) => `${source} ${source === 'clips' ? body : ''}`);
  return Object.values(shoots).map((shoot) => shoot.sort((a, b) => (a.at ?? 0) - (b.at ?? 0)));
}

/** Each frame with how close it is to what came before it, by a measure: higher is closer. */
const measured = (shoot, measure) =>
  shoot.map((frame, i) => ({ ...frame, close: i === 0 ? null : measure(shoot, i) }));

const MEASURES = {
  ours: (shoot, i) => {
    const before = shoot.slice(Math.max(0, i - LOOKED_BACK), i).reverse();
    const gap = shoot[i].at === null ? null : shoot[i].at - shoot[i - 1].at;
    return closest(
      before.map(({ look }) => look),
      shoot[i].look,
      gap,
    ).close;
  },
  time: (shoot, i) => (shoot[i].at === null ? -1e9 : -(shoot[i].at - shoot[i - 1].at)),
  dhash: (shoot, i) => -bits(shoot[i - 1].look.difference, shoot[i].look.difference),
  dct: (shoot, i) => -bits(shoot[i - 1].look.dct, shoot[i].look.dct),
  keypoints: (shoot, i) => likenessOf(shoot[i - 1].look, shoot[i].look).inliers,
};
const bits = (a, b) => core.hashDistance(a, b);

/** Takes by our own grouping, by the number of each frame's take. */
function grouped(shoot) {
  const frames = shoot.map(({ at, close }, i) => ({
    ...{ id: `${i}`, instant: at ?? null, body: null, close, take: null },
    ...{ aperture: null, exposure: null, iso: null, dx: null, dy: null },
  }));
  // Where no time is known the order stands for it, and the pixels decide alone.
  if (shoot.every(({ at }) => at === null)) return run(shoot, ({ close }) => close >= 0);
  const takes = takesOf(frames);
  const of = new Map(takes.flatMap(({ ids }, take) => ids.map((id) => [id, take])));
  return frames.map(({ id }) => of.get(id));
}

/** Takes as runs: a frame goes on with the one before it where a rule says so. */
function run(shoot, goesOn) {
  let take = -1;
  return shoot.map((frame, i) => (i > 0 && goesOn(frame) ? take : ++take));
}

/** Pairs of one shoot, counted: said and so, said and not so, not said and so. */
function counted(shoot, take, into) {
  for (let i = 0; i < shoot.length; i++)
    for (let j = i + 1; j < shoot.length; j++) {
      const is = isOneTake(shoot[i], shoot[j]);
      if (is === null) continue;
      const said = take[i] === take[j];
      if (is) into.positives += 1;
      else into.negatives += 1;
      if (said && is) into.both += 1;
      else if (said) into.wrong += 1;
      else if (is) into.missed += 1;
    }
}

const f1 = ({ both, wrong, missed }) => (both === 0 ? 0 : (2 * both) / (2 * both + wrong + missed));

/** The adjusted Rand index (Hubert and Arabie 1985) of two partitions. */
function ari(truth, said) {
  const choose = (n) => (n * (n - 1)) / 2;
  const count = (list) => Object.values(groupBy(list, (value) => value)).map((of) => of.length);
  const both = count(truth.map((value, i) => `${value} ${said[i]}`)).reduce((sum, n) => sum + choose(n), 0);
  const a = count(truth).reduce((sum, n) => sum + choose(n), 0);
  const b = count(said).reduce((sum, n) => sum + choose(n), 0);
  const expected = (a * b) / choose(truth.length);
  return (both - expected) / ((a + b) / 2 - expected);
}

function scored(shoots, takeOf) {
  const counts = { positives: 0, negatives: 0, both: 0, wrong: 0, missed: 0 };
  const truth = [];
  const said = [];
  shoots.forEach((shoot, n) => {
    const take = takeOf(shoot);
    counted(shoot, take, counts);
    truth.push(...shoot.map((frame) => `${n} ${frame.take}`));
    said.push(...take.map((its) => `${n} ${its}`));
  });
  return { ...counts, f1: f1(counts), ari: ari(truth, said) };
}

/** A simpler measure with the limit that does best on what is tuned on. */
function tuned(tuning, name) {
  const with_ = tuning.map((shoot) => measured(shoot, MEASURES[name]));
  const values = [...new Set(with_.flat().map(({ close }) => close))].filter((value) => value !== null);
  const limits = values.sort((a, b) => a - b);
  const step = Math.max(1, Math.floor(limits.length / 80));
  let best = { f1: -1, limit: 0 };
  for (let i = 0; i < limits.length; i += step) {
    const { f1: is } = scored(with_, (shoot) => run(shoot, ({ close }) => close >= limits[i]));
    if (is > best.f1) best = { f1: is, limit: limits[i] };
  }
  return best.limit;
}

function groupBy(list, keyOf) {
  const groups = {};
  for (const one of list) (groups[keyOf(one)] ??= []).push(one);
  return groups;
}

const round = (n) => Number(n.toFixed(4));

function report(set, tuning, shoots, log) {
  const results = [];
  const ours = shoots.map((shoot) => measured(shoot, MEASURES.ours));
  const { f1: value, ari: index, ...counts } = scored(ours, grouped);
  const floor = set === 'made' ? 0.97 : 0.93;
  results.push({
    name: `takes.f1.${set}`,
    value: round(value),
    unit: '0…1',
    floor,
    ratio: round(value / floor),
    ...counts,
  });
  results.push({
    name: `takes.ari.${set}`,
    value: round(index),
    unit: '0…1',
    floor: 0.9,
    ratio: round(index / 0.9),
  });
  for (const shoot of ours) {
    const one = scored([shoot], grouped);
    log(
      `  ${shoot[0].source} ${shoot[0].source === 'clips' ? shoot[0].body : ''}: f1 ${round(one.f1)}, ${one.wrong} wrong, ${one.missed} missed of ${one.positives} and ${one.negatives}`,
    );
  }
  for (const name of ['time', 'dhash', 'dct', 'keypoints']) {
    const limit = tuned(tuning, name);
    const { f1: its } = scored(
      shoots.map((shoot) => measured(shoot, MEASURES[name])),
      (shoot) => run(shoot, ({ close }) => close >= limit),
    );
    results.push({ name: `takes.f1.${set}.${name}`, value: round(its), unit: '0…1', floor: '', ratio: '' });
  }
  return results;
}

/** Pairs of pictures that a file lists: path, path, 1 or 0, parted by tabs. By pixels alone, as no times are known. */
async function ofPairs(file, log) {
  const pairs = readFileSync(file, 'utf8')
    .split('\n')
    .map((line) => line.trimEnd().split('\t'))
    .filter(([first]) => first && !first.startsWith('#'));
  const looks = new Map();
  const look = async (name) => {
    const full = path.resolve(path.dirname(file), name);
    if (!looks.has(full)) looks.set(full, await lookAt(full));
    return looks.get(full);
  };
  const counts = { positives: 0, negatives: 0, both: 0, wrong: 0, missed: 0 };
  for (const [n, [first, second, is]] of pairs.entries()) {
    if (!second || !['0', '1'].includes(is))
      throw new Error(`${file}: pair ${n + 1} is no “path, path, 1 or 0, parted by tabs”.`);
    const value = closeness(likenessOf(await look(first), await look(second)));
    const [said, truth] = [value >= 0, is === '1'];
    counts[truth ? 'positives' : 'negatives'] += 1;
    if (said && truth) counts.both += 1;
    else if (said) counts.wrong += 1;
    else if (truth) counts.missed += 1;
    if (said !== truth) log(`  ${truth ? 'missed' : 'wrong'} (${value.toFixed(2)}): ${first}\t${second}`);
  }
  return { name: 'takes.f1.pairs', value: round(f1(counts)), unit: '0…1', floor: '', ratio: '', ...counts };
}

export async function takes({ pairs, log }) {
  if (pairs) return [await ofPairs(pairs, log)];
  const madeOf = async (seeds) => {
    const shoots = [];
    for (const seed of seeds) shoots.push(...(await looked(await made(path.join(KEPT, 'made'), seed))));
    return shoots;
  };
  log('made shoots');
  const tunedMade = await madeOf(TUNED);
  const results = report('made', tunedMade, await madeOf(REPORTED), log);
  log('open pictures');
  const tuning = await looked(await real(path.join(KEPT, 'real'), 1));
  const reported = await looked(await real(path.join(KEPT, 'real'), 2));
  results.push(...report('real', tuning, reported, log));
  // Each source by weights that have not seen it.
  for (const source of Object.keys(SOURCES)) {
    const isOf = ([frame]) => frame.source === source;
    const weights = fitted([...tunedMade, ...tuning.filter((shoot) => !isOf(shoot))]);
    const own = reported.filter(isOf).map((shoot) => measured(shoot, closeBy(weights)));
    const { f1: value, wrong, missed, positives, negatives } = scored(own, grouped);
    log(`  ${source}, by weights ${weights.map((w) => w.toFixed(2)).join(' ')}`);
    results.push({
      ...{ name: `takes.f1.real.${source}.unseen`, value: round(value), unit: '0…1', floor: '', ratio: '' },
      ...{ wrong, missed, positives, negatives },
    });
  }
  return results;
}
