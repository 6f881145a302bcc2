import { Injectable } from '@nestjs/common';
import {
  albumKind,
  albumPlace,
  albumsIn,
  ArkivError,
  isWithin,
  markEach,
  pileKind,
  pilesOf,
  UNMARKED,
  type Marks,
} from '@arkiv/core';
import { BinService } from '../bin/bin.service';
import { Reading } from '../db/unitOfWork';
import { OpenJobs } from '../jobs/openJobs.service';
import { MarksService } from '../marks/marks.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { ownStamp } from './ownStamp';
import { grouped } from '../system/grouped';
import { SharedContents } from './sharedContents.service';
import { UsedFrames, type FileRow, type UsedFrame } from './usedFrames.service';

/** One of several frames that hold equal content. */
export interface DuplicateFrame extends UsedFrame {
  /** ids of the others of the group that hold all its files as well: with one of these kept, nothing of it is lost */
  within: string[];
}

/** Frames of which some files are equal, byte for byte. */
export interface Duplicate {
  /** SHA-256 of a file that they share: the first of these */
  id: string;
  frames: DuplicateFrame[];
}

export interface Duplicates {
  groups: Duplicate[];
  /** what to ask for next; null: that was all */
  next: string | null;
}

/** Contents that are looked at in one question: a page of the screen. */
const PAGE = 100;

/** Frames that hold equal content, anywhere in the archive, and one of them that stays alone. */
type InSets = Pick<Marks, 'piles' | 'albums'>;

@Injectable()
export class DuplicatesService {
  private turn: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly reading: Reading,
    private readonly shared: SharedContents,
    private readonly used: UsedFrames,
    private readonly marks: MarksService,
    private readonly bin: BinService,
    private readonly openJobs: OpenJobs,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** A page of them, in the order of their checksums; `after`: where the last page ended. */
  async page(after: string | null): Promise<Duplicates> {
    const contents = await this.shared.page(after ?? '', PAGE);
    const groups = await this.groups(contents);
    return { groups, next: contents.length === PAGE ? contents.at(-1)! : null };
  }

  /**
   * One stays, and the others go into the bin; the piles and albums that these are in it comes into as well. Refused where it
   * does not hold all that another one has by now, or is on its way itself. Returns the jobs, one for each shoot.
   */
  stays(frameId: string, going: readonly string[]): Promise<string[]> {
    // One after the other: two windows that choose the other way round would both be right, and nothing would be left.
    const own = this.turn.then(() => this.putAway(frameId, going));
    this.turn = own.catch(() => undefined);
    return own;
  }

  private async putAway(frameId: string, going: readonly string[]): Promise<string[]> {
    const frames: (InSets & { id: string; shootId: string; name: string; title: string })[] =
      await this.reading.source.query(
        `SELECT f.id, f."shootId", f.name, f.piles, f.albums, s.title FROM frame_here f JOIN shoot s ON s.id = f."shootId"
         WHERE f.id IN (SELECT value FROM json_each(?))`,
        [JSON.stringify([frameId, ...going])],
      );
    const staying = frames.find(({ id }) => id === frameId);
    if (!staying) throw new ArkivError('not-found', { what: 'frame', id: frameId });
    const others = frames.filter(({ id }) => id !== frameId);
    const filesOf = await this.used.files(JSON.stringify(frames.map(({ id }) => id)));
    const more = others.find(({ id }) => !within(id, frameId, filesOf));
    if (more) throw new ArkivError('duplicate.more', { frame: more.name, other: staying.name });
    for (const { shootId, title } of frames)
      if (await this.openJobs.onShoots([shootId], { deed: 'moves' }))
        throw new ArkivError('move.busy', { shoot: title });
    await this.carrySets(staying, others);
    const jobs: string[] = [];
    for (const shootId of new Set(others.map((frame) => frame.shootId))) {
      const frameIds = others.flatMap((frame) => (frame.shootId === shootId ? frame.id : []));
      jobs.push((await this.bin.start({ deed: 'bin', shootId, frameIds })).jobId);
    }
    return jobs;
  }

  private async carrySets({ id, piles, albums }: InSets & { id: string }, others: readonly InSets[]) {
    const marks = { ...UNMARKED, piles, albums };
    const into = new Set(others.flatMap(pilesOf));
    const places = new Map(
      others.flatMap((other) => albumsIn(other.albums)).map((of) => [of.album, of.place]),
    );
    // Those that it is in already are left out; in an album it keeps its own place.
    const changes = [
      ...[...into].map((pile) => ({ id, marks, field: pileKind(pile), to: true })),
      ...[...places].flatMap(([album, to]) =>
        albumPlace(albums, album) === null ? [{ id, marks, field: albumKind(album), to }] : [],
      ),
    ];
    await this.marks.apply(markEach(changes, ownStamp(this.ids, this.clock)));
  }

  private async groups(contents: readonly string[]): Promise<Duplicate[]> {
    const { source } = this.reading;
    const holders: { sha256: string; frameId: string }[] = await source.query(
      `SELECT DISTINCT a.sha256, a."frameId" FROM asset a JOIN frame_here f ON f.id = a."frameId"
       WHERE a.sha256 IN (SELECT value FROM json_each(?)) AND a.role IN ('original', 'clip')
         AND f."derivedFrom" IS NULL`,
      [JSON.stringify(contents)],
    );
    const ids = JSON.stringify([...new Set(holders.map(({ frameId }) => frameId))]);
    const filesOf = await this.used.files(ids);
    const frames = await this.used.of(ids, filesOf);
    const byContent = grouped(holders, ({ sha256 }) => sha256);
    return [...byContent]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .flatMap(([id, of]) => {
        const held = of.flatMap(({ frameId }) => frames.get(frameId) ?? []);
        // A raw with its picture shares two contents with its double: they are one group, under the first.
        if (held.length < 2 || this.isFurther(id, held, filesOf)) return [];
        const all = held.map((frame) => ({
          ...frame,
          within: held.flatMap(({ id: other }) =>
            other !== frame.id && within(frame.id, other, filesOf) ? other : [],
          ),
        }));
        return [
          {
            id,
            frames: all.sort((a, b) => (a.time ?? '').localeCompare(b.time ?? '') || (a.id < b.id ? -1 : 1)),
          },
        ];
      });
  }

  /** Whether the same frames share another content that comes before. */
  private isFurther(
    id: string,
    held: readonly { id: string }[],
    filesOf: ReadonlyMap<string, FileRow[]>,
  ): boolean {
    const [first, ...others] = held.map(
      ({ id: frame }) => new Set(filesOf.get(frame)?.map(({ sha256 }) => sha256)),
    );
    return [...first!].some(
      (content) => content !== null && content < id && others.every((its) => its.has(content)),
    );
  }
}

const within = (id: string, other: string, filesOf: ReadonlyMap<string, FileRow[]>): boolean =>
  isWithin(filesOf.get(id) ?? [], filesOf.get(other) ?? []);
