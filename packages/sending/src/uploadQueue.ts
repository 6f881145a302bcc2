/** A file that somebody chose, and how it is called below what was chosen. */
export interface ChosenFile {
  path: string;
  file: File;
}

export type SendingState =
  /** waits for its turn */
  | 'waiting'
  /** its checksum is made */
  | 'reading'
  /** its bytes go out */
  | 'sending'
  /** the other side reads it from its disk */
  | 'proving'
  /** it is there as it was sent */
  | 'whole'
  /** it was there already */
  | 'there'
  | 'failed';

export interface Sending extends ChosenFile {
  state: SendingState;
  /** bytes that are there */
  sent: number;
  /** why it failed */
  reason: string | null;
}

/** What a queue needs of the world: a checksum, a way there, and the proof of the other side. */
export interface Way {
  hash(file: File): Promise<string>;
  /** Sends what is not there yet of a file, says how much is there, and resolves with its id on the other side. */
  send(
    upload: string,
    chosen: ChosenFile,
    onSent: (bytes: number) => void,
    signal: AbortSignal,
  ): Promise<string>;
  prove(upload: string, id: string, sha256: string): Promise<void>;
  /** checksums of what is whole there */
  whole(upload: string): Promise<readonly string[]>;
}

/** Files on their way at one time: while one is proven the next ones go out; more would only share the line. */
const AT_ONCE = 3;
/** Whether a file is on the other side, as it was sent. */
export const isHere = ({ state }: Pick<Sending, 'state'>): boolean => state === 'whole' || state === 'there';
/** Whether nothing more happens to a file by itself. */
const isOver = (one: Pick<Sending, 'state'>): boolean => isHere(one) || one.state === 'failed';
/** Whether something is being done with a file just now. */
export const isAtWork = (one: Pick<Sending, 'state'>): boolean => !isOver(one) && one.state !== 'waiting';

/** Sends files one after another, however often the line breaks, and goes on with them when the screen is left. */
export class UploadQueue {
  private files: Sending[] = [];
  private seen: readonly Sending[] = [];
  private there = new Set<string>();
  private stopping = new AbortController();
  private readonly listeners = new Set<() => void>();
  /** the upload that they go into; null: none was begun here */
  upload: string | null = null;

  constructor(private readonly way: Way) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** The files as they are now; another list after each change. */
  snapshot = (): readonly Sending[] => this.seen;

  get isBusy(): boolean {
    return this.files.some((one) => !isOver(one));
  }

  /** Files go into this upload from now on, once it is known what is there of it. Those of another one are over by then. */
  async into(upload: string): Promise<void> {
    if (this.upload === upload) return;
    const there = new Set(await this.way.whole(upload));
    // Two that were asked at once come out as one.
    if (this.upload === upload) return;
    this.upload = upload;
    this.files = [];
    this.there = there;
    this.told();
  }

  /** Adds files; one that is in the queue already is not taken twice. */
  add(chosen: readonly ChosenFile[]): void {
    const known = new Set(this.files.map(keyOf));
    for (const one of chosen) {
      if (known.has(keyOf(one))) continue;
      known.add(keyOf(one));
      this.files.push({ ...one, state: 'waiting', sent: 0, reason: null });
    }
    this.told();
    this.work();
  }

  /** Those that failed are tried once more. */
  again(): void {
    for (const one of this.files)
      if (one.state === 'failed') this.set(one, { state: 'waiting', reason: null });
    this.work();
  }

  /** Lets go of what is not over; what has come of it stays there for another time. */
  stop(): void {
    this.stopping.abort();
    this.stopping = new AbortController();
    this.files = this.files.filter(isOver);
    this.told();
  }

  /** Nothing is to be sent here any more. */
  clear(): void {
    this.stop();
    this.upload = null;
    this.files = [];
    this.told();
  }

  private work(): void {
    const { upload } = this;
    if (upload === null) return;
    const busy = this.files.filter(isAtWork).length;
    const next = this.files.filter(({ state }) => state === 'waiting').slice(0, Math.max(0, AT_ONCE - busy));
    for (const one of next) {
      this.set(one, { state: 'reading' });
      void this.one(upload, one, this.stopping.signal).finally(() => this.work());
    }
  }

  private async one(upload: string, one: Sending, signal: AbortSignal): Promise<void> {
    try {
      const sha256 = await this.way.hash(one.file);
      if (signal.aborted) return;
      if (this.there.has(sha256)) return this.set(one, { state: 'there', sent: one.file.size });
      this.set(one, { state: 'sending' });
      const id = await this.way.send(upload, one, (sent) => this.set(one, { sent }), signal);
      if (signal.aborted) return;
      this.set(one, { state: 'proving', sent: one.file.size });
      await this.way.prove(upload, id, sha256);
      this.there.add(sha256);
      this.set(one, { state: 'whole' });
    } catch (error) {
      if (!signal.aborted) this.set(one, { state: 'failed', reason: (error as Error).message });
    }
  }

  private set(one: Sending, change: Partial<Sending>): void {
    Object.assign(one, change);
    this.told();
  }

  private told(): void {
    this.seen = this.files.map((one) => ({ ...one }));
    this.listeners.forEach((listener) => listener());
  }
}

const keyOf = ({ path, file }: ChosenFile): string => `${path} ${file.size} ${file.lastModified}`;
