import net from 'node:net';

/** Archives stand ten apart: each has its galleries three above its own port. */
const STEP = 10;
/** More archives than anybody has open at once. */
const MOST = 20;

/** Ports to try for an archive that was given none: where it answered last, then the usual one and those after it. */
export function portsToTry(last: number | null, usual: number): number[] {
  const rising = Array.from({ length: MOST }, (_, n) => usual + n * STEP);
  return [...new Set(last === null ? rising : [last, ...rising])];
}

/** The first of the ports at which nobody answers; the last one where all are taken, which then says so itself. */
export async function firstFree(host: string, ports: readonly number[]): Promise<number> {
  for (const port of ports) if (await isFree(host, port)) return port;
  return ports.at(-1)!;
}

function isFree(host: string, port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once('error', () => resolve(false));
    server.listen(port, host, () => server.close(() => resolve(true)));
  });
}
