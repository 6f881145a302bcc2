// One event stream for all windows of a browser: each window connects to this shared worker.
import { EVENT_TYPES, type StreamMessage } from '../data/eventTypes';

interface Port {
  postMessage(message: StreamMessage): void;
  start(): void;
}
const scope = self as unknown as { onconnect: (event: { ports: Port[] }) => void };
const ports: Port[] = [];
const source = new EventSource('/api/events');
/** The newest event that the windows were told of; null until the stream is open. */
let latest: string | null = null;
source.addEventListener('hello', (event) => {
  latest = event.lastEventId;
  for (const port of ports) port.postMessage({ type: 'hello', data: latest });
});
for (const type of EVENT_TYPES) {
  source.addEventListener(type, (event) => {
    latest = event.lastEventId;
    const message: StreamMessage = {
      type,
      data: JSON.parse((event as MessageEvent<string>).data) as unknown,
    };
    for (const port of ports) port.postMessage(message);
  });
}
scope.onconnect = ({ ports: [port] }) => {
  if (!port) return;
  ports.push(port);
  port.start();
  if (latest !== null) port.postMessage({ type: 'hello', data: latest });
};
