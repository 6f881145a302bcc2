import { ApiFailure, put } from './http';
import { writeProgress } from './passProgress';
import { serverState } from './serverState';

jest.mock('./http', () => ({
  put: jest.fn(),
  ApiFailure: class extends Error {
    constructor(
      readonly status: number,
      readonly body: object,
    ) {
      super('refused');
    }
  },
}));
jest.mock('./serverState', () => {
  const listeners: (() => void)[] = [];
  return {
    serverState: {
      away: null as number | null,
      awaySince: () => (serverState as unknown as { away: number | null }).away,
      subscribe: (listener: () => void) => listeners.push(listener),
      tell: () => listeners.forEach((listener) => listener()),
    },
  };
});
const server = serverState as unknown as { away: number | null; tell: () => void };
const said = (seenCount: number) => ({ seenCount }) as never;

describe('how far a pass came', () => {
  it('is written down once the server is back, each pass by its last word, though nobody goes through any more', async () => {
    const sent = jest.mocked(put).mockRejectedValue(new Error('away'));
    server.away = 1;
    await writeProgress('P1', said(1));
    await writeProgress('P1', said(2));
    await writeProgress('P2', said(5));
    server.tell();
    expect(sent).toHaveBeenCalledTimes(3);
    sent.mockReset().mockResolvedValue(undefined as never);
    server.away = null;
    server.tell();
    await Promise.resolve();
    expect(sent.mock.calls).toEqual([
      ['/passes/P1', said(2)],
      ['/passes/P2', said(5)],
    ]);
    await new Promise((done) => setTimeout(done));
    server.tell();
    expect(sent).toHaveBeenCalledTimes(2);
  });

  it('is not said again in an order of frames that is no more: the pass is asked for anew', async () => {
    const sent = jest.mocked(put).mockReset();
    sent.mockRejectedValueOnce(new ApiFailure(409, { code: 'pass.arranged', message: '', next: '' }));
    expect(await writeProgress('P3', said(3))).toBe(false);
    server.tell();
    expect(sent).toHaveBeenCalledTimes(1);
    // Any other failure is no word on the order, and is tried again.
    sent.mockRejectedValueOnce(new ApiFailure(500, { code: 'internal', message: '', next: '' }));
    expect(await writeProgress('P3', said(4))).toBe(true);
    server.tell();
    expect(sent).toHaveBeenCalledTimes(3);
  });
});
