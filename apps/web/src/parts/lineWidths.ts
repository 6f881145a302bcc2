/**
 * Pixels of width from which counts and titles have room beside the steps; below, as at 200 % zoom, the steps alone stay,
 * and each screen says the rest.
 */
export const WORDS = '@media (min-width:960px)';

/** Pixels of width from which a field has room beside the steps of a shoot; below, a link stays. */
export const FIELD = '@media (min-width:1180px)';

/** Pixels of width from which the bookmarks, and what a job says of itself in whole, have room beside the steps of a shoot. */
export const BESIDE_STEPS = '@media (min-width:1400px)';
