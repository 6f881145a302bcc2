import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { CARD_TREES, PHONE_TREE } from '@arkiv/core';
import { Subject } from 'rxjs';
import { Disk, diskErrorCode } from '../disk/disk';
import type { MountLook } from '../disk/mounts/look';
import { mountAt, MountSource, type CableDevice, type Mount, type ReaderSlot } from '../disk/mounts/mounts';

/** Name of the file by which a drive is known again. */
export const VOLUME_FILE = '.arkiv-volume.json';

/** Twice a second at the most somebody can put a card in; once is enough to show it within two. */
const LOOK_MILLIS = 1000;
/** A phone shows its pictures only when it is unlocked, a camera writes its folders with the first frame. */
const AGAIN_EVERY = 5;

/** A mount with what was found on it. */
export interface SeenMount {
  mount: Mount;
  /** null while it is looked at, and where it does not answer */
  look: MountLook | null;
  /** false: it did not answer in time */
  answers: boolean;
}

interface Known extends SeenMount {
  state: string;
  pending: Promise<void> | null;
}

/** Watches what comes and goes: cards, drives, cameras on a cable. Looking at it never holds up anything else. */
@Injectable()
export class MountsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('mounts');
  /** something came, went, or was recognised */
  readonly changes = new Subject<void>();
  /** folders below a mount in which a drive's own file may lie besides the top */
  folders: () => Promise<readonly string[]> = () => Promise.resolve([]);
  private readonly known = new Map<string, Known>();
  private cablesSeen = '';
  private timer: NodeJS.Timeout | null = null;
  private listing: Promise<void> = Promise.resolve();
  private stopped = false;
  private rounds = 0;

  constructor(
    private readonly disk: Disk,
    private readonly source: MountSource,
  ) {}

  onApplicationBootstrap(): void {
    this.watch();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.listing;
  }

  /** What is mounted at this moment. What has not been looked at yet is there without a look. */
  async now(): Promise<SeenMount[]> {
    await this.list();
    return [...this.known.values()];
  }

  /** As `now`, after everything was looked at that answers. */
  async settled(): Promise<SeenMount[]> {
    await this.list();
    await Promise.all([...this.known.values()].map(({ pending }) => pending));
    return [...this.known.values()];
  }

  slots(): readonly ReaderSlot[] {
    return this.source.slots();
  }

  /** Cameras and phones on a cable, of which nothing is mounted. */
  async unmounted(): Promise<CableDevice[]> {
    const cables = await this.source.cables();
    const mounted = [...this.known.values()].filter(({ mount }) => mount.kind === 'cable');
    return mounted.some(({ look }) => (look?.cards.length ?? 0) > 0) ? [] : cables;
  }

  disksOf(path: string): Promise<readonly string[] | null> {
    return this.source.disksOf(path);
  }

  /** The folder of a path below the mount that holds it; '' for the mount itself, null where none is known. */
  async below(path: string): Promise<string | null> {
    await this.list();
    const mount = mountAt(
      [...this.known.values()].map((known) => known.mount),
      path,
    );
    return mount && path.slice(mount.point.length).replace(/^\/+/, '');
  }

  async eject(mount: Mount): Promise<string | null> {
    const refused = await this.source.eject(mount);
    await this.settled();
    return refused;
  }

  private watch(): void {
    if (this.stopped) return;
    this.timer = setTimeout(() => {
      this.rounds += 1;
      void this.list().finally(() => this.watch());
    }, LOOK_MILLIS);
    this.timer.unref();
  }

  /** One listing after another: two at once would look at everything twice. */
  private list(): Promise<void> {
    if (!this.stopped)
      this.listing = this.listing
        .then(() => this.compare())
        .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.listing;
  }

  private async compare(): Promise<void> {
    const mounts = await this.source.list();
    const there = new Set(mounts.map((mount) => mount.point));
    let changed = false;
    for (const point of [...this.known.keys()]) if (!there.has(point)) changed = this.known.delete(point);
    for (const mount of mounts) {
      const { id, readOnly, disks, generation } = mount;
      const state = JSON.stringify([id, readOnly, disks, generation]);
      const known = this.known.get(mount.point);
      // One that hung is tried again: the looker refuses at once until it is time.
      const same = known?.state === state;
      if (same && (known.pending || (known.answers && !this.mayHaveBecome(known)))) continue;
      if (known?.state !== state) changed = true;
      this.look({ mount, state, look: same ? known.look : null, answers: same ? known.answers : true });
    }
    const cables = JSON.stringify(await this.source.cables());
    if (cables !== this.cablesSeen) changed = true;
    this.cablesSeen = cables;
    if (changed) this.changes.next();
  }

  /** Whether something that was neither card nor drive may be one by now. */
  private mayHaveBecome({ mount, look }: Known): boolean {
    const nothing = look !== null && look.cards.length === 0 && Object.keys(look.texts).length === 0;
    return nothing && mount.point !== '/' && !mount.reader && this.rounds % AGAIN_EVERY === 0;
  }

  private look(seen: Omit<Known, 'pending'>): void {
    const known: Known = { ...seen, pending: null };
    const before = JSON.stringify([known.answers, known.look]);
    known.pending = this.folders()
      .then((folders) =>
        this.disk.lookAt({
          ...{ point: known.mount.point, ownFile: VOLUME_FILE, folders },
          trees: { card: CARD_TREES, phone: PHONE_TREE },
          cable: known.mount.kind === 'cable',
        }),
      )
      .then(
        (look) => {
          known.look = look;
          known.answers = true;
        },
        (error: unknown) => {
          if (diskErrorCode(error) === null && !this.stopped) this.log.error((error as Error).stack);
          known.answers = false;
        },
      )
      .finally(() => {
        known.pending = null;
        // Found, or found to be silent: both are news, but not twice.
        const after = JSON.stringify([known.answers, known.look]);
        if (!this.stopped && this.known.get(known.mount.point) === known && after !== before)
          this.changes.next();
      });
    this.known.set(known.mount.point, known);
  }
}
