import { worker, workerEmit, type Pool, type Promise as Asking } from 'workerpool';

/** What a thread, or a process, tells as it begins with what it was asked. */
const BEGUN = 'arkiv: begun';

/** Registers what a thread can be asked for, so that {@link inTime} knows when it begins with it. */
export function answer(methods: Record<string, (...asked: never[]) => unknown>): void {
  worker(
    Object.fromEntries(
      Object.entries(methods).map(([name, method]) => [
        name,
        (...asked: never[]) => {
          workerEmit(BEGUN);
          return method(...asked);
        },
      ]),
    ),
  );
}

/** What is asked of a thread. */
export interface Timed {
  /** milliseconds after which a thread that has not answered is ended; its methods are registered by {@link answer} */
  limit?: number;
  /** what it tells before it answers */
  onTold?: (told: unknown) => void;
  /** memory that goes over to the thread, and is nobody's here from then on */
  gives?: ArrayBuffer[];
}

/**
 * Asks a thread. What it takes to start is no part of its time: on a machine that is busy otherwise that may be most of it, and a good
 * file would be taken for one that was made to catch its reader.
 */
export function inTime(
  threads: Pool,
  method: string,
  parameters: unknown[],
  { limit, onTold, gives = [] }: Timed,
): Asking<unknown, Error> {
  const on = (told: unknown): void => {
    if (told !== BEGUN) return onTold?.(told);
    if (limit !== undefined) void asked.timeout(limit);
  };
  const asked = threads.exec(method, parameters, { on, transfer: gives }) as Asking<unknown, Error>;
  return asked;
}
