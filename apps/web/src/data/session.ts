/** Whether the server has asked for the studio password; said once, by the first answer that does. */
class Session {
  private needed = false;
  private readonly listeners = new Set<() => void>();

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  isNeeded = (): boolean => this.needed;

  lost(): void {
    if (this.needed) return;
    this.needed = true;
    this.listeners.forEach((listener) => listener());
  }
}

export const session = new Session();
