// One event stream for all windows of a browser: each window connects to this shared worker.
import { openStream } from '../data/eventSource';
import type { StreamMessage } from '../data/eventTypes';

interface Port {
  postMessage(message: StreamMessage): void;
  start(): void;
}
const scope = self as unknown as { onconnect: (event: { ports: Port[] }) => void };
const ports: Port[] = [];
/** The newest event that the windows were told of; null until the stream is open. */
let latest: string | null = null;
let away = false;

openStream((message) => {
  if (message.type === 'hello') latest = message.data as string;
  else if (message.id !== undefined) latest = message.id;
  if (message.type === 'away' || message.type === 'back') away = message.type === 'away';
  for (const port of ports) port.postMessage(message);
});

scope.onconnect = ({ ports: [port] }) => {
  if (!port) return;
  ports.push(port);
  port.start();
  if (latest !== null) port.postMessage({ type: 'hello', data: latest });
  if (away) port.postMessage({ type: 'away', data: {} });
};
