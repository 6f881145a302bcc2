import { RemoteError } from './remote';

/** Milliseconds without a byte either way after which a line counts as lost: slow servers think for half a minute at most. */
const SILENT = 60_000;

let heardAt = 0;

/** Something went by on the line. */
export const heard = (): void => void (heardAt = performance.now());

/** Gives up work on a line that says nothing any more. */
export async function unlessSilent<T>(work: Promise<T>): Promise<T> {
  heard();
  let timer: NodeJS.Timeout | undefined;
  const silence = new Promise<never>((_, reject) => {
    timer = setInterval(() => {
      if (performance.now() - heardAt > SILENT)
        reject(new RemoteError('away', `it said nothing for ${SILENT / 1000} seconds`));
    }, 1000);
  });
  try {
    return await Promise.race([work, silence]);
  } finally {
    clearInterval(timer);
    // What comes of it later is nobody's business.
    work.catch(() => undefined);
  }
}
