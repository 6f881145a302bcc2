import { correctedLocal, QUERY_FACTS, takenOf, type CaptureTime, type QueryFrame } from '@arkiv/core';

type Kept = QueryFrame & Omit<CaptureTime, 'local'> & { local: string | null };

/** The facts that filters see, by core's own list of them. */
export function queryFrame(frame: Kept): QueryFrame {
  const { local } = frame;
  const facts = Object.fromEntries(QUERY_FACTS.map((fact) => [fact, frame[fact]])) as unknown as QueryFrame;
  return { ...facts, taken: local === null ? null : takenOf(correctedLocal({ ...frame, local })) };
}
