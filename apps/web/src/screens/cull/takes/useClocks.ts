import { bodyNames, formatClockShift } from '@arkiv/core';
import { useCallback, useMemo, useState } from 'react';
import { many } from '../../../data/format';
import { put, type Api } from '../../../data/http';
import type { ShootState } from '../../../data/shootStore';
import { isFound } from '../../../data/frameSource';
import { useGet } from '../../../data/useGet';
import { useAction } from '../../../parts/useAction';
import type { Takes } from './takes';

type Proposal = Api['ClockProposalDto'];

/** A body’s clock that seems to be off, as it is asked about; or that was corrected a moment ago. */
export interface ClockOffer {
  words: string;
  /** frames of moments that both bodies saw, for the strip */
  pairs: readonly (readonly [string, string])[];
  /** two frames of a moment that both bodies saw, the next one each time; null: they are not in this shoot any more */
  look: (() => readonly [string, string] | null) | null;
  accept: (() => void) | null;
  /** takes the correction back */
  undo: (() => void) | null;
  leave: () => void;
  /** why a correction failed; null: it did not */
  error: unknown;
  again: () => void;
}

/** A correction that was made a moment ago. */
interface Done {
  body: string;
  /** what it was before, and by how much it changed: milliseconds */
  before: number;
  by: number;
}

const NO_PAIRS: ClockOffer['pairs'] = [];

/** The share of pictures that may not have been compared: one that cannot be decoded never is. */
const NOT_COMPARED = 0.05;

const leftKey = (shootId: string) => `arkiv.clocks.left.${shootId}`;
const proposalKey = ({ body, correction }: Proposal) => `${body} ${Math.round(correction / 1000)}`;

/** What somebody has left as it is, in this browser. */
function leftOf(shootId: string): readonly string[] {
  try {
    return JSON.parse(localStorage.getItem(leftKey(shootId)) ?? '[]') as string[];
  } catch {
    return [];
  }
}

/** Bodies of a shoot, each with how its clock is corrected now. */
function correctionsOf({ frames }: Pick<ShootState, 'frames'>): Map<string, number> {
  const of = new Map<string, number>();
  for (const { body, correctionMillis } of frames) if (body !== null) of.set(body, correctionMillis);
  return of;
}

/**
 * The clock that seems to be off, where two bodies shot a shoot; null: none, or it was left as it is. It is asked for when nearly
 * all pictures were compared, and again when a clock was corrected. Nothing is corrected by itself.
 */
export function useClocks(shootId: string, shoot: ShootState, takes: Takes): ClockOffer | null {
  // Marks change no clock.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const corrections = useMemo(() => correctionsOf(shoot), [shoot.order]);
  // The clocks of one shoot's bodies are held beside each other there.
  const asks =
    !isFound(shootId) && corrections.size > 1 && takes.waiting <= NOT_COMPARED * shoot.frames.length;
  const now = [...corrections].map(([body, millis]) => `${body}=${millis}`).join();
  // The server answers from memory while nothing has changed; what stands behind `?` only makes it be asked again.
  const { data } = useGet(asks ? `/takes/shoots/${shootId}/clocks?now=${encodeURIComponent(now)}` : null);
  const [left, setLeft] = useState(() => leftOf(shootId));
  const [at, setAt] = useState(0);
  const [done, setDone] = useState<Done | null>(null);
  const names = useMemo(() => bodyNames(corrections.keys()), [corrections]);
  const nameOf = (body: string) => names.get(body) ?? body;
  // What was done is said once the server has done it.
  const { run, error, again } = useAction(async (body: string, millis: number, then: Done | null) => {
    await put(`/shoots/${shootId}/clocks`, { corrections: [{ body, millis }] });
    setDone(then);
  });
  const leave = useCallback(
    (proposal: Proposal) => {
      const next = [...leftOf(shootId), proposalKey(proposal)];
      localStorage.setItem(leftKey(shootId), JSON.stringify(next));
      setLeft(next);
    },
    [shootId],
  );
  if (done)
    return {
      words: `The clock of ${nameOf(done.body)} was corrected by ${shiftWords(done.by)}.`,
      ...{ pairs: NO_PAIRS, look: null, accept: null, leave: () => setDone(null), error, again },
      undo: () => run(done.body, done.before, null),
    };
  const proposal = data?.find((one) => !left.includes(proposalKey(one)));
  if (!proposal) return null;
  const { body, beside, millis, correction, agree, pairs } = proposal;
  return {
    words: `The clock of ${nameOf(body)} seems to be off beside ${nameOf(beside)}: ${shiftWords(millis)}, ${many(agree, 'moment agrees', 'moments agree')}.`,
    pairs: pairs as [string, string][],
    look: () => {
      setAt(at + 1);
      const pair = pairs[at % pairs.length] as [string, string] | undefined;
      return pair && pair.every((id) => shoot.order.has(id)) ? pair : null;
    },
    accept: () => run(body, correction, { body, before: corrections.get(body) ?? 0, by: millis }),
    undo: null,
    leave: () => leave(proposal),
    error,
    again,
  };
}

/** As finely as it is known, `+0:03:27.4`: people press within some tenths of a second. */
const shiftWords = (millis: number): string =>
  formatClockShift(Math.round(millis / 100) * 100).replace(/00$/, '');
