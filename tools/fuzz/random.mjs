import { seeded } from '../demo/random.mjs';

/** Choices that a seed alone decides. */
export function randomFrom(seed) {
  const next = seeded(seed);
  const below = (n) => Math.floor(next() * n);
  return { next, below, pick: (list) => list[below(list.length)] };
}
