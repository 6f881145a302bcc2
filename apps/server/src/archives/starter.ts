import { fork } from 'node:child_process';
import { Injectable } from '@nestjs/common';

/** What a server says to who started it: where it answers, or why it does not. */
export type Started = { address: string } | { failed: string };

/** Of this server's own settings only these are another's too; all else stands in that archive's own. */
const SHARED = ['ARKIV_WEB', 'ARKIV_GALLERY_WEB', 'ARKIV_ARCHIVES'];

/** Starts a server for another archive, and ends this one. */
@Injectable()
export class Starter {
  /** Begins a program of its own, which goes on when this one ends. Resolves once it answers or has given up. */
  start(dataDir: string, newName: string | null): Promise<Started> {
    const env = Object.fromEntries(
      Object.entries(process.env).filter(([key]) => !key.startsWith('ARKIV_') || SHARED.includes(key)),
    );
    const child = fork(require.resolve('@arkiv/server/dist/main.js'), {
      ...{ detached: true, stdio: 'ignore' as const, execArgv: process.execArgv },
      env: { ...env, ARKIV_DATA: dataDir, ...(newName === null ? {} : { ARKIV_NAME: newName }) },
    });
    return new Promise((resolve) => {
      const settle = (said: Started) => {
        if (child.connected) child.disconnect();
        child.unref();
        resolve(said);
      };
      child.once('message', (said) => settle(said as Started));
      child.once('error', ({ message }) => settle({ failed: message }));
      child.once('exit', (code) => settle({ failed: `it ended at once (${code})` }));
    });
  }

  /** Ends this server as a signal from outside would: what is under way stops where it can be gone on with. */
  end(): void {
    process.kill(process.pid, 'SIGTERM');
  }
}
