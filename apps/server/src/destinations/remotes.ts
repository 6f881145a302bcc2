import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { pool, type Pool } from 'workerpool';
import type { Checked, Said, SendOrder } from './remote.worker';
import type { Put } from './remote/put';
import { RemoteError, type Target } from './remote/remote';

/** Files on their way at once: more share the same line, and each costs a process. */
const PROCESSES = 2;

/** Speaks to destinations in processes of their own. */
@Injectable()
export class Remotes implements OnApplicationShutdown {
  private processes: Pool | null = null;

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
    await this.processes?.terminate(true);
  }

  private async run<T>(
    method: string,
    parameters: unknown[],
    onBytes?: (bytes: number) => void,
    signal?: AbortSignal,
  ): Promise<T> {
    this.processes ??= pool(require.resolve('@arkiv/server/dist/destinations/remote.worker.js'), {
      workerType: 'process',
      maxWorkers: PROCESSES,
      forkOpts: { serialization: 'advanced', execArgv: [] },
    });
    const running = this.processes.exec(method, parameters, { on: (bytes: number) => onBytes?.(bytes) });
    // A process that is given up leaves what it has begun, to be gone on with.
    const abort = () => void running.cancel();
    signal?.addEventListener('abort', abort, { once: true });
    try {
      const said = (await running) as Said<T>;
      if (said.ok) return said.value;
      throw new RemoteError(said.trouble, said.message);
    } catch (error) {
      signal?.throwIfAborted();
      if (error instanceof RemoteError) throw error;
      throw new RemoteError(
        'away',
        `what speaks to it has ended (${(error as Error).message.split('\n')[0]})`,
      );
    } finally {
      signal?.removeEventListener('abort', abort);
    }
  }
}
