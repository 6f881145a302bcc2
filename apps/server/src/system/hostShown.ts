import os from 'node:os';

/** A server that answers at all addresses of its machine is named by the first that others can use. */
export function hostShown(host: string): string {
  if (host !== '0.0.0.0' && host !== '::') return host.includes(':') ? `[${host}]` : host;
  const all = Object.values(os.networkInterfaces()).flatMap((list) => list ?? []);
  return all.find(({ internal, family }) => !internal && family === 'IPv4')?.address ?? '127.0.0.1';
}
