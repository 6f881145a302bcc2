// Whether the offset between two bodies' clocks is found where they shot one event, and none where they did not.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { ROOT } from '../bootstrap.mjs';
import { lookAt } from './takes.mjs';
import { apart, together } from './takes/twoBodies.mjs';

const { clockBetween, LOOK_VERSION, momentsOf, packLook, unpackLook } = createRequire(import.meta.url)(
  '@arkiv/core',
);
const KEPT = path.join(ROOT, '.cache', 'takes', 'clocks');
/** Limits were chosen on pairs 101–112; these are reported. */
const PAIRS = Array.from({ length: 20 }, (_, i) => i + 1);
const NOTHING = Array.from({ length: 10 }, (_, i) => i + 1);
/** Milliseconds that a proposal may be off. */
const OFF = 2000;

/** A picture's look, kept beside it: it is the same each time. */
async function keptLook(file) {
  const kept = `${file}.look-${LOOK_VERSION}`;
  if (!existsSync(kept)) writeFileSync(kept, packLook(await lookAt(file)));
  return unpackLook(readFileSync(kept));
}

async function momentsFrom(frames) {
  const named = frames.map(({ file, at }, i) => ({ id: String(i), instant: at, file }));
  named.sort((a, b) => a.instant - b.instant);
  const fileOf = new Map(named.map(({ id, file }) => [id, file]));
  const moments = [];
  for (const moment of momentsOf(named)) {
    const file = fileOf.get(moment.id);
    moments.push({ ...moment, look: await keptLook(file) });
  }
  return moments;
}

export async function proposal({ first, second }) {
  return clockBetween(await momentsFrom(first), await momentsFrom(second));
}

export async function clocks({ log, pairs = PAIRS, nothing = NOTHING }) {
  let [right, wrong, invented] = [0, 0, 0];
  for (const seed of pairs) {
    const pair = await together(KEPT, seed);
    const found = await proposal(pair);
    const off = found === null ? null : found.millis - pair.millis;
    if (off !== null && Math.abs(off) <= OFF) right += 1;
    else if (off !== null) wrong += 1;
    log(
      `  pair ${seed}: ${off === null ? 'none' : `${Math.round(off)} ms off, ${found.agree} moments agree`}`,
    );
  }
  for (const seed of nothing) {
    const found = await proposal(await apart(KEPT, seed));
    if (found) invented += 1;
    log(`  nothing in common ${seed}: ${found === null ? 'none' : `${found.agree} moments agree`}`);
  }
  const of = { pairs: pairs.length, wrong, nothing: nothing.length, invented };
  return [
    {
      name: 'takes.clock',
      value: right,
      unit: 'of 20',
      floor: 15,
      ratio: Number((right / 15).toFixed(3)),
      ...of,
    },
    {
      name: 'takes.clock.invented',
      value: wrong + invented,
      unit: 'of 30',
      floor: 0,
      ratio: wrong + invented,
    },
  ];
}
