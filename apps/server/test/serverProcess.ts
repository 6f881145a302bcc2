import { spawn, type ChildProcess } from 'node:child_process';
import path from 'node:path';
import { Client, ROOT } from './testArkiv';

/** The real server in a process of its own, as `npm run demo` starts it. */
export function serverProcess(data: string, env: Record<string, string> = {}): ChildProcess {
  return spawn(process.execPath, [path.join(ROOT, 'apps/server/dist/main.js')], {
    env: { ...process.env, ARKIV_DATA: data, ARKIV_PORT: '0', ARKIV_STAND_INS: '1', ARKIV_WEB: '', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
}

/** Starts one and waits until it tells its address. */
export async function startServer(
  data: string,
  env: Record<string, string> = {},
): Promise<{ process: ChildProcess; client: Client }> {
  const child = serverProcess(data, env);
  let said = '';
  child.stderr!.on('data', (chunk: Buffer) => (said += String(chunk)));
  const address = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (chunk: Buffer) => {
      said += String(chunk);
      const found = /https?:\/\/[\d.]+:\d+/.exec(said);
      if (found) resolve(found[0]);
    });
    child.on('exit', (code) => reject(new Error(`the server ended with ${code}: ${said}`)));
  });
  return { process: child, client: new Client(address) };
}

export const ended = (child: ChildProcess): Promise<number | null> =>
  child.exitCode !== null || child.signalCode !== null
    ? Promise.resolve(child.exitCode)
    : new Promise((resolve) => child.once('exit', (code) => resolve(code)));
