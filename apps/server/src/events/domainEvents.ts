import { Injectable, Logger } from '@nestjs/common';
import type { MarkOperation } from '@arkiv/core';

/** A frame of which a picture or clip is proven since just now. */
export interface FrameArrived {
  shootId: string;
  frameId: string;
  /** key of the picture that shows it */
  picture: string;
}

/** Where a job stands. What the job line shows comes with it, for the browser. */
export interface JobChanged {
  id: string;
  kind: string;
  state: string;
  /** what can be made later waits while it runs */
  first: boolean;
}

export interface MarkCounts {
  frames: number;
  keepers: number;
  rejects: number;
}

/** What something said of one frame's sidecar, for whoever is looking. */
export interface SidecarNote {
  frameId: string;
  name: string;
  /** the drive's name, where one drive alone is meant */
  volume?: string;
  message: string;
}

/** Everything that happens in the archive and that somebody else may have to learn of. */
export interface DomainEvents {
  /** frames of a shoot came, changed, were moved or went; null: more than are named one by one */
  frames: { shootId: string; revision: number; ids: readonly string[] | null };
  arrived: FrameArrived;
  /** the preview of a picture was made, by its key */
  previewed: { picture: string };
  /** what was measured of frames just now, by their ids, as `measuresText` gives it */
  measured: { shootId: string; measures: readonly (readonly [string, string])[] };
  /** what a picture is compared by is kept since just now */
  looked: { picture: string };
  /** how much frames look like the one before them, by their ids: compared since just now */
  compared: {
    shootId: string;
    frames: readonly (readonly [id: string, close: number | null, dx: number | null, dy: number | null])[];
  };
  /** with the shoot's numbers after them, so that nobody has to ask for these */
  marks: { shootId: string; revision: number; counts: MarkCounts; operations: MarkOperation[] };
  /** a drive has a proven copy of a file since just now, or has one no more */
  copied: { assetId: string };
  /** frames have something that their sidecars do not say yet */
  due: Record<string, never>;
  /** which sidecars wait, and for which drive, has changed */
  sidecars: Record<string, never>;
  sidecar: SidecarNote;
  /** a window has asked for a shoot's frames */
  opened: { shootId: string };
  shoots: { shootId: string | null };
  /** kept numbers of a shoot are to be counted anew */
  uncounted: Record<string, never>;
  job: JobChanged;
  volumes: { changed?: string };
  readers: { changed?: string };
  /** something is being sent from elsewhere, or who may send is otherwise */
  uploads: Record<string, never>;
  settings: Record<string, never>;
  /** a pile came, went or was renamed, or holds other frames */
  piles: Record<string, never>;
  /** an album came, went or changed, or holds other frames */
  albums: Record<string, never>;
  /** the tree of keywords is another, or frames have followed it */
  vocabulary: Record<string, never>;
  /** something went into the bin, was forgotten, came back or was deleted */
  bin: Record<string, never>;
  /** which copies of a shoot that lie with editing cannot be read is otherwise */
  heard: { shootId: string };
  /** edits came back to a shoot, or somebody said of which frames they are */
  returns: { shootId: string };
  /** that frames of a shoot went out was entered by hand, or taken out of the ledger again */
  posted: { shootId: string };
  /** a set was sent, or it is known that it arrived */
  sent: { shootId: string };
  destinations: object;
  /** a gallery of a shoot was made or changed, or somebody said something there */
  gallery: { shootId: string; galleryId: string };
  /** the mail server is another one, or a message of a shoot came to another state */
  mail: { shootId?: string };
  /** a folder that is watched, what came of it, or what is in the way */
  watch: Record<string, never>;
  /** a folder was adopted or let go, or is being looked at */
  adopted: Record<string, never>;
  /** rows were written that none of those who keep them in memory has heard of: the archive is made anew from its drives */
  rebuilt: Record<string, never>;
  /** a pass over a shoot began, went on or ended */
  passes: { shootId: string };
}

export type DomainEvent = keyof DomainEvents;
type Listener<T extends DomainEvent> = (data: DomainEvents[T]) => void;

/**
 * What one part of the server tells the others. What is said within a transaction leaves when that is committed, in the
 * order in which it was said, and is forgotten with it where it fails: nobody hears of what did not happen.
 */
@Injectable()
export class Happenings {
  private readonly log = new Logger('events');
  private readonly listeners = new Map<DomainEvent, Listener<never>[]>();
  private readonly open = new WeakMap<object, (() => void)[]>();

  on<T extends DomainEvent>(type: T, listener: Listener<T>): void {
    this.listeners.set(type, [...(this.listeners.get(type) ?? []), listener]);
  }

  /** Says at once what has happened and is written down, or is nothing that the database holds. */
  tell<T extends DomainEvent>(type: T, data: DomainEvents[T]): void {
    for (const listener of this.listeners.get(type) ?? []) {
      try {
        (listener as Listener<T>)(data);
      } catch (error) {
        // One listener's trouble is its own: what happened has happened for the others too.
        this.log.error(`on “${type}”: ${(error as Error).stack}`);
      }
    }
  }

  /** Says it when the transaction of `manager` is committed. Throws where none is under way. */
  after<T extends DomainEvent>(manager: object, type: T, data: DomainEvents[T]): void {
    const waiting = this.open.get(manager);
    if (!waiting) throw new Error(`“${type}” was told outside of a transaction`);
    waiting.push(() => this.tell(type, data));
  }

  /** Runs `work` as the transaction of `manager`. Returns what is to be called after its commit. */
  async within<T>(manager: object, work: () => Promise<T>): Promise<{ value: T; tellAll: () => void }> {
    const waiting: (() => void)[] = [];
    this.open.set(manager, waiting);
    try {
      const value = await work();
      return { value, tellAll: () => waiting.forEach((tell) => tell()) };
    } finally {
      this.open.delete(manager);
    }
  }
}
