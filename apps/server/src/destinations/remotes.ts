import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { RestingPool } from '../system/restingPool';
import type { Checked, Said, SendOrder } from './remote.worker';
import type { Put } from './remote/put';
import { RemoteError, type Target } from './remote/remote';

/** Files on their way at once: more share the same line, and each costs a process. */
const PROCESSES = 2;

/** Milliseconds after which processes that nobody needs end: each holds 90 MB. */
const RESTS = 30_000;

/** Speaks to destinations in processes of their own. */
@Injectable()
export class Remotes implements OnApplicationShutdown {
  private readonly processes = new RestingPool(
    require.resolve('@arkiv/server/dist/destinations/remote.worker.js'),
    {
      ...{ workerType: 'process', maxWorkers: PROCESSES },
      forkOpts: { serialization: 'advanced', execArgv: [] },
    },
    RESTS,
  );

  /** Whether it can be written to and read from. Throws {@link RemoteError}. */
  check(target: Target): Promise<Checked> {
    return this.run<Checked>('check', [target]);
  }

  /** Copies a file there, with proof. Throws {@link RemoteError}. */
  put(
    target: Target,
    order: SendOrder,
    { onBytes, signal }: { onBytes: (bytes: number) => void; signal: AbortSignal },
  ): Promise<Put> {
    return this.run<Put>('put', [target, order], onBytes, signal);
  }

  async onApplicationShutdown(): Promise<void> {
    await this.processes.end(true);
  }

  private async run<T>(
    method: string,
    parameters: unknown[],
    onBytes?: (bytes: number) => void,
    signal?: AbortSignal,
  ): Promise<T> {
    try {
      const said = await this.processes.run<Said<T>>(method, parameters, {
        onTold: (bytes) => onBytes?.(bytes as number),
        // A process that is given up leaves what it has begun, to be gone on with.
        signal,
      });
      if (said.ok) return said.value;
      throw new RemoteError(said.trouble, said.message);
    } catch (error) {
      signal?.throwIfAborted();
      if (error instanceof RemoteError) throw error;
      throw new RemoteError(
        'away',
        `what speaks to it has ended (${(error as Error).message.split('\n')[0]})`,
      );
    }
  }
}
