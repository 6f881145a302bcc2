import { NodeDisk } from '../nodeDisk';
import { lookAtMount, probePlace, type LookOrder } from './look';
import { THERE, type LookAnswer, type LookAsked } from './looker';

// A process of its own for looking at what is mounted: a mount that hangs holds up a thread here, and nothing else.
const disk = new NodeDisk();

function work({ ask }: LookAsked): Promise<unknown> {
  if (ask.what === 'probe') return probePlace(disk, ask.root, ask.ownFile);
  return lookAtMount(disk, ask.order as LookOrder);
}

process.on('message', (asked: LookAsked) => {
  const answer = (said: Omit<LookAnswer, 'id'>): void => void process.send?.({ id: asked.id, ...said });
  work(asked).then(
    (found) => answer({ found }),
    (error: Error & { code?: string }) => answer({ error: { code: error.code, message: error.message } }),
  );
});
process.on('disconnect', () => process.exit());
process.send?.({ id: THERE } satisfies LookAnswer);
