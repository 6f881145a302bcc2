import { openStream } from './eventSource';
import type { EventType, StreamMessage } from './eventTypes';
import { Missed } from './missed';
import { serverState } from './serverState';

type Listener = (data: unknown) => void;
const listeners = new Map<EventType, Set<Listener>>();
const missed = new Missed();
let open = false;

function tell({ type, data }: StreamMessage): void {
  if (type === 'away') return serverState.lost();
  if (type === 'back') return serverState.answered();
  if (type !== 'hello') return listeners.get(type)?.forEach((listener) => listener(data));
  if (missed.begins(data as string)) tell({ type: 'reset', data: {} });
}

/** Says which event was the newest when the server began an answer: what was missed since is loaded anew. */
export function heard(id: string | null): void {
  if (id !== null && missed.answered(id)) tell({ type: 'reset', data: {} });
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
  openStream(tell);
}

/** Hears one kind of server event until the returned function is called. */
export function listen<T>(type: EventType, listener: (data: T) => void): () => void {
  connect();
  const set = listeners.get(type) ?? new Set<Listener>();
  listeners.set(type, set);
  set.add(listener as Listener);
  return () => void set.delete(listener as Listener);
}
