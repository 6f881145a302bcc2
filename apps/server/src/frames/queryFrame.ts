import {
  correctedLocal,
  FINISHED,
  QUERY_FACTS,
  takenOf,
  type CaptureTime,
  type QueryFrame,
} from '@arkiv/core';

/** `place`: the folder of the frame’s files. */
type Kept = Omit<QueryFrame, 'place' | 'finished'> &
  Omit<CaptureTime, 'local'> & { local: string | null; place: string };

/** The facts that filters see, by core's own list of them. */
export function queryFrame(frame: Kept): QueryFrame {
  const { local, place: lies } = frame;
  const kept = frame as unknown as Record<string, unknown>;
  const facts: Record<string, unknown> = {};
  for (const fact of QUERY_FACTS) facts[fact] = kept[fact];
  facts.lies = lies;
  facts.finished = frame.finish === '' ? null : FINISHED;
  facts.taken = local === null ? null : takenOf(correctedLocal({ ...frame, local }));
  return facts as unknown as QueryFrame;
}
