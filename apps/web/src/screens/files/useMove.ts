import { useEffect, useState } from 'react';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';

export type MoveRequest = Api['MoveRequestDto'];

/** Milliseconds of quiet before a plan is asked for: typing makes one question of many letters. */
const QUIET = 250;

/** What the server would answer to a question that is put together by hand, asked when the hand rests. */
function useAsked<Q extends object, A>(
  asked: Q | null,
  at: string,
  ask: (question: Q) => Promise<A>,
): { plan: A | null; error: unknown } {
  const [answer, setAnswer] = useState<{ to: string; plan: A | null; error: unknown } | null>(null);
  const body = asked && JSON.stringify(asked);
  const question = body && `${body} ${at}`;
  useEffect(() => {
    if (body === null) return;
    let late = false;
    const timer = setTimeout(() => {
      ask(JSON.parse(body) as Q).then(
        (plan) => !late && setAnswer({ to: question!, plan, error: null }),
        (error: unknown) => !late && setAnswer({ to: question!, plan: null, error }),
      );
    }, QUIET);
    return () => {
      late = true;
      clearTimeout(timer);
    };
  }, [body, question, ask]);
  return answer && answer.to === question ? answer : { plan: null, error: null };
}

const askMove = (asked: MoveRequest) => post('/moves/plan', asked);
const askBin = (asked: Api['BinRequestDto']) => post('/bin/plan', asked);

/**
 * What a move would do, asked for as it is put together; null while there is nothing to ask. `at`: another text where the
 * same question has another answer by now.
 */
export const useMovePlan = (asked: MoveRequest | null, at = '') => useAsked(asked, at, askMove);

/** What would leave the archive, in the same way. */
export const useBinPlan = (asked: Api['BinRequestDto'], at: string) => useAsked(asked, at, askBin);

/** Starts a move and waits for its end; several on one shoot go one after the other. */
export async function moveNow(asked: MoveRequest): Promise<void> {
  await jobEnd((await post('/moves', asked)).jobId);
}
