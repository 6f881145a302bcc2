const HEARD = /^(.+)-(\d+)$/;

/** The start of the server and the running number in an event's id, `<start>-<number>`; null for anything else. */
function parse(id: string): { start: string; number: number } | null {
  const [, start, number] = HEARD.exec(id) ?? [];
  return start === undefined ? null : { start, number: Number(number) };
}

/**
 * Tells whether a window missed an event between an answer it loaded and the moment its stream began. Each answer of
 * the server names the newest event that it can hold; the stream names the event that it begins behind. A stream that
 * begins anew on a restarted server says so itself, by `reset`, so ids of two starts are never held against each other.
 */
export class Missed {
  private began: string | null = null;
  private oldest: string | null = null;

  /** An answer came that was begun when `id` was the newest event. True: something of it may be old. */
  answered(id: string): boolean {
    if (this.began !== null) return isBefore(id, this.began);
    if (this.oldest === null || isBefore(id, this.oldest)) this.oldest = id;
    return false;
  }

  /** The stream is open and carries on behind `id`. True: something loaded before may be old. */
  begins(id: string): boolean {
    if (this.began !== null) return false;
    this.began = id;
    return this.oldest !== null && isBefore(this.oldest, id);
  }
}

function isBefore(id: string, other: string): boolean {
  const [a, b] = [parse(id), parse(other)];
  return a !== null && b !== null && a.start === b.start && a.number < b.number;
}
