import { put, type Api } from './http';
import { serverState } from './serverState';

type Said = Api['PassProgressDto'];

/** What could not be written down, by pass: a pass that was stopped while the server was away is not asked again. */
const owed = new Map<string, Said>();
let listening = false;

/** Writes down how far a pass came; while the server is away the last word of each pass is kept for it. */
export async function writeProgress(passId: string, said: Said): Promise<void> {
  if (!listening) {
    listening = true;
    serverState.subscribe(() => {
      if (serverState.awaySince() === null) void sendOwed();
    });
  }
  owed.set(passId, said);
  await send(passId, said);
}

const sendOwed = (): Promise<unknown> => Promise.all([...owed].map(([id, said]) => send(id, said)));

async function send(passId: string, said: Said): Promise<void> {
  await put(`/passes/${passId}`, said).then(
    // Something newer may have been said meanwhile.
    () => owed.get(passId) === said && owed.delete(passId),
    () => undefined,
  );
}
