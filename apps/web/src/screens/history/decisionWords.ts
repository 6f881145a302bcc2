import {
  albumOfKind,
  DESCRIPTION_FIELDS,
  pileOfKind,
  shootFactOf,
  shownName,
  type DescriptionField,
  type FinishField,
} from '@arkiv/core';
import { count, many } from '../../data/format';
import type { Api } from '../../data/http';
import { valueWords, type Names } from '../carried/bothWords';
import { FINISH_WORDS } from '../cull/finish/finishWords';

type Decision = Api['DecidedStepDto'];
type Said = Pick<Api['SaidDto'], 'kind' | 'to' | 'name'>;

/** Characters of a text that is told of: a line's. */
const TOLD = 60;
const short = (text: string): string => {
  const line = shownName(text.replace(/\s+/g, ' '));
  return line.length <= TOLD ? line : `${line.slice(0, TOLD - 1).trimEnd()}…`;
};
const quoted = (text: string): string => `“${short(text)}”`;

/** What one kind of mark was set to: `4★`, `keyword heron`, `out of “Cover”`. Where each frame got a value of its own, what kind it is of. */
export function saidWords({ kind, to, name }: Said, names: Names): string {
  const isOne = to !== undefined;
  const rest = kind.slice(kind.indexOf(' ') + 1);
  const value = isOne ? valueWords(kind, to, names) : '';
  if (kind === 'verdict')
    return to === 'keep' ? 'kept' : to === 'reject' ? 'rejected' : isOne ? 'undecided again' : 'verdicts';
  if (kind === 'stars') return !isOne ? 'stars' : to === 0 ? 'no stars' : value;
  if (kind === 'label') return !isOne ? 'labels' : to === null ? 'no label' : `label ${value}`;
  if (kind === 'stage')
    return !isOne ? 'stages' : to === null ? 'back at the first stage' : `stage ${quoted(value)}`;
  if (kind === 'take') return 'takes corrected';
  if (kind === 'note') return !isOne ? 'notes' : to === null ? 'note taken off' : `note ${quoted(value)}`;
  if (pileOfKind(kind) !== null || albumOfKind(kind) !== null) {
    const place = name === null ? (pileOfKind(kind) === null ? 'an album' : 'a pile') : quoted(name);
    // Of an album each frame has its place.
    return to === null || to === false ? `out of ${place}` : `into ${place}`;
  }
  if (kind.startsWith('keyword ') || kind.startsWith('person ')) {
    const word = `${kind.slice(0, kind.indexOf(' '))} ${shownName(rest)}`;
    return to === false ? `${word} taken off` : isOne ? word : `${word} given or taken off`;
  }
  if (kind.startsWith('finish ')) {
    const words = FINISH_WORDS[rest as FinishField] ?? rest;
    return to === null ? `${words} as the camera took it` : `finish: ${words}`;
  }
  const fact = shootFactOf(kind);
  if (fact !== null)
    return to === '' ? `no ${fact} for the shoot` : `${fact} of the shoot: ${quoted(String(to))}`;
  const field = (DESCRIPTION_FIELDS[rest as DescriptionField] ?? rest).toLowerCase();
  return !isOne
    ? `${field}, each its own`
    : to === null
      ? `${field} taken off`
      : `${field} ${quoted(String(to))}`;
}

/** What a decision says, of how many frames: `4★, kept · 12 frames`. */
export function decisionWords(
  { said, more, frames }: Pick<Decision, 'said' | 'more' | 'frames'>,
  names: Names,
): string {
  const parts = said.map(
    (one) => `${saidWords(one, names)}${one.frames === frames ? '' : ` (${count(one.frames)})`}`,
  );
  const words = [...parts, ...(more > 0 ? [`${count(more)} more`] : [])].join(', ');
  return said.every(({ kind }) => shootFactOf(kind) !== null) ? words : `${words} · ${many(frames, 'frame')}`;
}

const WINDOWS: Readonly<Record<string, string>> = {
  copies: 'an editing program, in a copy that was handed off',
  sidecar: 'another program, in a sidecar',
  handoff: 'came with the hand-off',
  returns: 'came with an edit that is back',
};
const CLIENT = 'client ';

/** Who decided it; empty: somebody at the keys here. */
export function whoWords({ by, window }: Pick<Decision, 'by' | 'window'>): string {
  if (by === '') return window === 'vocabulary' ? 'followed the vocabulary' : '';
  if (by.startsWith(CLIENT)) return `${by.slice(CLIENT.length)}, a client, in a gallery`;
  return WINDOWS[window] ?? 'another program';
}

/** What came of taking a step back or doing it again. */
export function turnedWords({ marks, skipped }: Api['TurnedDto'], isBack: boolean): string {
  const stayed = skipped > 0 ? ` · ${many(skipped, 'mark')} changed since and stayed` : '';
  if (marks === 0 && skipped === 0) return isBack ? 'It was taken back already' : 'It holds already';
  return `${many(marks, 'mark')} ${isBack ? 'taken back' : 'done again'}${stayed}`;
}
