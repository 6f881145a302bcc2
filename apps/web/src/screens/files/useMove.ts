import { useEffect, useState } from 'react';
import { get, post, type Api } from '../../data/http';

export type MoveRequest = Api['MoveRequestDto'];

/** Milliseconds of quiet before a plan is asked for: typing makes one question of many letters. */
const QUIET = 250;

/**
 * What a move would do, asked for as it is put together; null while there is nothing to ask. `at`: another text where the
 * same question has another answer by now.
 */
export function useMovePlan(
  asked: MoveRequest | null,
  at = '',
): { plan: Api['MovePlanDto'] | null; error: unknown } {
  const [answer, setAnswer] = useState<{
    to: string;
    plan: Api['MovePlanDto'] | null;
    error: unknown;
  } | null>(null);
  const body = asked && JSON.stringify(asked);
  const question = body && `${body} ${at}`;
  useEffect(() => {
    if (body === null) return;
    let late = false;
    const timer = setTimeout(() => {
      post('/moves/plan', JSON.parse(body) as MoveRequest).then(
        (plan) => !late && setAnswer({ to: question!, plan, error: null }),
        (error: unknown) => !late && setAnswer({ to: question!, plan: null, error }),
      );
    }, QUIET);
    return () => {
      late = true;
      clearTimeout(timer);
    };
  }, [body, question]);
  return answer && answer.to === question ? answer : { plan: null, error: null };
}

/** Starts a move and waits for its end; several on one shoot go one after the other. */
export async function moveNow(asked: MoveRequest): Promise<void> {
  const { jobId } = await post('/moves', asked);
  for (;;) {
    const { job } = await get(`/jobs/${jobId}`);
    if (job.state === 'done') return;
    if (!['queued', 'running'].includes(job.state))
      throw new Error(job.reason ?? `The move is ${job.state}.`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}
