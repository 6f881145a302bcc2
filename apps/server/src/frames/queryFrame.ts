import { correctedLocal, QUERY_FACTS, takenOf, type CaptureTime, type QueryFrame } from '@arkiv/core';

/** `place`: the folder of the frame’s files. */
type Kept = Omit<QueryFrame, 'place'> & Omit<CaptureTime, 'local'> & { local: string | null; place: string };

/** The facts that filters see, by core's own list of them. */
export function queryFrame(frame: Kept): QueryFrame {
  const { local, place: lies } = frame;
  const kept = frame as unknown as QueryFrame;
  const facts = Object.fromEntries(QUERY_FACTS.map((fact) => [fact, kept[fact]])) as unknown as QueryFrame;
  return { ...facts, lies, taken: local === null ? null : takenOf(correctedLocal({ ...frame, local })) };
}
