// Whether the weights of closeness carry over: fitted anew without a source of open pictures, and tried on that source alone.
import { createRequire } from 'node:module';
import { isOneTake } from './real.mjs';

const { closenessParts, likenessOf, LOOKED_BACK } = createRequire(import.meta.url)('@arkiv/core');

const likeness = new WeakMap();
/** What two looks have in common; each pair once. */
function between(a, b) {
  if (!likeness.has(a)) likeness.set(a, new WeakMap());
  const of = likeness.get(a);
  if (!of.has(b)) of.set(b, closenessParts(likenessOf(a, b)));
  return of.get(b);
}

/** Frames with those before them, as far as they are looked back at, and whether they are one take. */
function pairsOf(shoots) {
  const pairs = [];
  for (const shoot of shoots)
    for (let i = 1; i < shoot.length; i++)
      for (let back = 1; back <= Math.min(LOOKED_BACK, i); back++) {
        const is = isOneTake(shoot[i - back], shoot[i]);
        if (is !== null) pairs.push({ parts: between(shoot[i - back].look, shoot[i].look), is: Number(is) });
      }
  return pairs;
}

/** Weight of the squared weights: against ones that grow without end where all pairs are told apart. */
const RIDGE = 1;
const ROUNDS = 30;

/** Logistic regression by Newton's method; both answers weigh alike however many pairs there are of each. */
export function fitted(shoots) {
  const pairs = pairsOf(shoots);
  const share = pairs.reduce((sum, { is }) => sum + is, 0) / pairs.length;
  const n = pairs[0].parts.length;
  let weights = new Array(n).fill(0);
  for (let round = 0; round < ROUNDS; round++) {
    const gradient = weights.map((w) => -RIDGE * w);
    const bend = weights.map((_, i) => weights.map((__, j) => (i === j ? RIDGE : 0)));
    for (const { parts, is } of pairs) {
      const p = 1 / (1 + Math.exp(-parts.reduce((sum, part, i) => sum + part * weights[i], 0)));
      const weight = 0.5 / (is ? share : 1 - share);
      for (let i = 0; i < n; i++) {
        gradient[i] += weight * (is - p) * parts[i];
        for (let j = 0; j < n; j++) bend[i][j] += weight * p * (1 - p) * parts[i] * parts[j];
      }
    }
    const step = solved(bend, gradient);
    weights = weights.map((w, i) => w + step[i]);
    if (Math.max(...step.map(Math.abs)) < 1e-6) break;
  }
  return weights;
}

/** Gauss with the largest of each column. */
function solved(matrix, values) {
  const rows = matrix.map((row, i) => [...row, values[i]]);
  const n = rows.length;
  for (let column = 0; column < n; column++) {
    let most = column;
    for (let row = column + 1; row < n; row++)
      if (Math.abs(rows[row][column]) > Math.abs(rows[most][column])) most = row;
    [rows[column], rows[most]] = [rows[most], rows[column]];
    for (let row = 0; row < n; row++) {
      if (row === column) continue;
      const times = rows[row][column] / rows[column][column];
      for (let k = column; k <= n; k++) rows[row][k] -= times * rows[column][k];
    }
  }
  return rows.map((row, i) => row[n] / row[i]);
}

/** How close a frame is to those before it by some weights: the closest of them. */
export const closeBy = (weights) => (shoot, i) => {
  let most = -Infinity;
  for (let back = 1; back <= Math.min(LOOKED_BACK, i); back++) {
    const parts = between(shoot[i - back].look, shoot[i].look);
    most = Math.max(
      most,
      parts.reduce((sum, part, k) => sum + part * weights[k], 0),
    );
  }
  return most;
};
