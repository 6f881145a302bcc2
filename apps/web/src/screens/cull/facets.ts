import {
  formatWords,
  LABELS,
  pilesOf,
  predicate,
  type Detail,
  type KeeperRules,
  type LineContext,
  type Verdict,
} from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import { tallyKey, type KeysOf } from '../../data/tally';
import { partsOf, starsPass, TRUTHS, type CullFilter, type StarsKind } from './cullFilter';
import {
  CHOSEN,
  NONE_WORDS,
  TIMES,
  timeWords,
  valuesOf,
  type Chosen,
  type ChosenTime,
  type Stretch,
  type Value,
} from './facetValues';

export const TITLES: Readonly<Record<Chosen | Stretch, string>> = {
  label: 'Label',
  stage: 'Stage',
  formats: 'Format',
  role: 'Kind',
  body: 'Body',
  lens: 'Lens',
  aperture: 'Aperture',
  exposure: 'Shutter time',
  iso: 'ISO',
  focalLength: 'Focal length',
  detail: 'Detail',
  advice: 'Advice',
  keywords: 'Keywords',
  persons: 'Persons shown',
  day: 'Day',
  hour: 'Hour',
};

/** What can be chosen of a shoot. */
export interface Facets {
  /** by fact: its values, with what they are called */
  values: Readonly<Record<Chosen, readonly { value: Value; words: string }[]>>;
  times: Readonly<Record<Stretch, readonly (ChosenTime & { words: string })[]>>;
}

/** Made when frames come or go: marks change no value of these but labels, which are five. */
export function facetsOf(frames: readonly LoadedFrame[]): Facets {
  const values = Object.fromEntries(
    CHOSEN.map((fact) => [fact, valuesIn(fact, frames)]),
  ) as unknown as Facets['values'];
  const times = Object.fromEntries(
    TIMES.map((stretch) => [stretch, timesIn(stretch, frames)]),
  ) as unknown as Facets['times'];
  return { values, times };
}

function valuesIn(fact: Chosen, frames: readonly LoadedFrame[]): { value: Value; words: string }[] {
  if (fact === 'label')
    return [...LABELS.map((label) => ({ value: label, words: label })), { value: null, words: 'no label' }];
  const words = new Map<Value, string>();
  for (const frame of frames)
    for (const value of valuesOf(fact, frame))
      if (!words.has(value)) words.set(value, wordsOf(fact, value, frame));
  const known = [...words].filter(([value]) => value !== null);
  known.sort(([a], [b]) =>
    typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : 1,
  );
  const all = known.map(([value, its]) => ({ value, words: its }));
  return words.has(null) ? [...all, { value: null, words: NONE_WORDS[fact] ?? 'unknown' }] : all;
}

function wordsOf(fact: Chosen, value: Value, frame: LoadedFrame): string {
  if (value === null) return 'unknown';
  switch (fact) {
    case 'formats':
      return formatWords(String(value));
    case 'role':
      return value === 'clip' ? 'clip' : 'picture';
    case 'aperture':
      return frame.apertureText ?? `f/${value}`;
    case 'exposure':
      return frame.exposureText ? `${frame.exposureText} s` : `${value} s`;
    case 'focalLength':
      return `${Math.round(Number(value))} mm`;
    case 'detail':
      return DETAIL_WORDS[value as Detail];
    default:
      return String(value);
  }
}

/** How much of its file is seen of a frame. */
const DETAIL_WORDS: Readonly<Record<Detail, string>> = {
  full: 'full detail',
  embedded: 'embedded picture',
  developed: 'developed picture',
  poster: 'one moment of a clip',
};

function timesIn(stretch: Stretch, frames: readonly LoadedFrame[]): (ChosenTime & { words: string })[] {
  const found = new Map<string, ChosenTime & { words: string }>();
  for (const { time, instant } of frames) {
    if (time === null || instant === null) continue;
    const key = time.slice(0, stretch === 'day' ? 10 : 13);
    const known = found.get(key);
    if (!known) found.set(key, { key, from: instant, to: instant, words: timeWords(key) });
    else {
      known.from = Math.min(known.from, instant);
      known.to = Math.max(known.to, instant);
    }
  }
  return [...found.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

export const VERDICTS: readonly Verdict[] = ['keep', 'undecided', 'reject'];
export const STARS_CHOICES = [5, 4, 3, 2, 1, 0] as const;

/** The drawer's sections, by the parts of the filter that are chosen in them. */
const SECTIONS: readonly string[] = [
  ...['verdict', 'stars', ...CHOSEN, 'times', 'piles', 'note'],
  ...TRUTHS.map(({ fact }) => fact),
];

/** Each section's choices that a frame is one of, in the order of {@link SECTIONS}; those of stars go by the filter. */
interface FixedKeys {
  sections: readonly (readonly number[])[];
  /** all of them at once */
  all: readonly number[];
}

const fixed = new WeakMap<LoadedFrame, FixedKeys>();

/** A frame's own: made once, since ten thousand of them are counted with each change of the filter. */
function fixedKeys(frame: LoadedFrame): FixedKeys {
  const known = fixed.get(frame);
  if (known) return known;
  const { verdict, time, note } = frame;
  const piles = pilesOf(frame);
  const sections = [
    [tallyKey('verdict', verdict)],
    NONE,
    ...CHOSEN.map((fact) => valuesOf(fact, frame).map((value) => tallyKey(fact, value))),
    time === null ? NONE : [tallyKey('day', time.slice(0, 10)), tallyKey('hour', time.slice(0, 13))],
    piles.length > 0 ? piles.map((id) => tallyKey('piles', id)) : [tallyKey('piles', '')],
    [tallyKey('note', note === null ? '' : 'with')],
    ...TRUTHS.map(({ fact, is }) => (frame[fact] === is ? [tallyKey(fact, is)] : NONE)),
  ];
  const made = { sections, all: sections.flat() };
  fixed.set(frame, made);
  return made;
}

const STARS_SECTION = SECTIONS.indexOf('stars');

/**
 * The choices of the drawer that would show a frame, each with all else that is chosen: what another section hides is in
 * none, what its own section hides still is. So all counts come from one pass.
 */
export function facetKeys(filter: CullFilter, rules: KeeperRules, line?: LineContext): KeysOf {
  const parts = partsOf(filter, rules, line).map(({ section, part }) => ({
    ...{ i: SECTIONS.indexOf(section), passes: predicate(part) },
  }));
  const { stars } = filter;
  const kind: StarsKind = stars.kind === 'any' ? 'is' : stars.kind;
  const starsKeys = [0, 1, 2, 3, 4, 5].map((its) =>
    STARS_CHOICES.filter((n) => starsPass(kind, n, its)).map((n) => tallyKey('stars', n)),
  );
  return (frame) => {
    let hiding = -1;
    for (const { i, passes } of parts) {
      if (passes(frame)) continue;
      // What stands over all sections, or a second one: none of the choices alone would show it.
      if (hiding >= 0 || i < 0) return NONE;
      hiding = i;
    }
    const { sections, all } = fixedKeys(frame);
    const ofStars = starsKeys[frame.stars]!;
    if (hiding >= 0) return [hiding === STARS_SECTION ? ofStars : sections[hiding]!];
    return [ofStars, all];
  };
}
const NONE: readonly never[] = [];
