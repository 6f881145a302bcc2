/** Whether the server can be heard: by its stream of events, and by each answer. */
class ServerState {
  private since: number | null = null;
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** when it was lost, milliseconds; null: it is there */
  awaySince = (): number | null => this.since;

  lost(): void {
    if (this.since !== null) return;
    this.since = Date.now();
    this.listeners.forEach((listener) => listener());
  }

  answered(): void {
    if (this.since === null) return;
    this.since = null;
    this.listeners.forEach((listener) => listener());
  }
}

export const serverState = new ServerState();
