import { ApiFailure, put, type Api } from './http';
import { serverState } from './serverState';

type Said = Api['PassProgressDto'];

/** What could not be written down, by pass: a pass that was stopped while the server was away is not asked again. */
const owed = new Map<string, Said>();
let listening = false;

/**
 * Writes down how far a pass came; while the server is away the last word of each pass is kept for it. False: the frames of the pass stand in
 * another order by now, and it is asked for anew.
 */
export async function writeProgress(passId: string, said: Said): Promise<boolean> {
  if (!listening) {
    listening = true;
    serverState.subscribe(() => {
      if (serverState.awaySince() === null) void sendOwed();
    });
  }
  owed.set(passId, said);
  return send(passId, said);
}

const sendOwed = (): Promise<unknown> => Promise.all([...owed].map(([id, said]) => send(id, said)));

async function send(passId: string, said: Said): Promise<boolean> {
  // Something newer may have been said meanwhile.
  const sent = () => void (owed.get(passId) === said && owed.delete(passId));
  try {
    await put(`/passes/${passId}`, said);
  } catch (error) {
    if (!(error instanceof ApiFailure) || error.body.code !== 'pass.arranged') return true;
    sent();
    return false;
  }
  sent();
  return true;
}
