import { QUERY_FACTS, type QueryFrame } from '@arkiv/core';

/** The facts that filters see, by core's own list of them. */
export function queryFrame(frame: QueryFrame): QueryFrame {
  return Object.fromEntries(QUERY_FACTS.map((fact) => [fact, frame[fact]])) as unknown as QueryFrame;
}
