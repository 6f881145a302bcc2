import { EVENT_TYPES, type EventType, type StreamMessage } from './eventTypes';

type Listener = (data: unknown) => void;
const listeners = new Map<EventType, Set<Listener>>();
let open = false;

function tell({ type, data }: StreamMessage): void {
  listeners.get(type)?.forEach((listener) => listener(data));
}

function connect(): void {
  if (open) return;
  open = true;
  if (typeof SharedWorker !== 'undefined') {
    const worker = new SharedWorker(new URL('../workers/events.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.port.onmessage = (event: MessageEvent<StreamMessage>) => tell(event.data);
    worker.port.start();
    return;
  }
  const source = new EventSource('/api/events');
  for (const type of EVENT_TYPES) {
    source.addEventListener(type, (event) =>
      tell({ type, data: JSON.parse((event as MessageEvent<string>).data) as unknown }),
    );
  }
}

/** Hears one kind of server event until the returned function is called. */
export function listen<T>(type: EventType, listener: (data: T) => void): () => void {
  connect();
  const set = listeners.get(type) ?? new Set<Listener>();
  listeners.set(type, set);
  set.add(listener as Listener);
  return () => void set.delete(listener as Listener);
}
