/** Milliseconds between two tries to fetch a part's code while the server is away, which is said over it. */
const AGAIN = 1000;

/** Code that is loaded when it is needed, however long the server is away meanwhile. */
export const fetched = <T>(load: () => Promise<T>): Promise<T> =>
  load().catch(() => new Promise((resolve) => setTimeout(resolve, AGAIN)).then(() => fetched(load)));
