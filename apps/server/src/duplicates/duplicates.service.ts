import { Injectable } from '@nestjs/common';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { PLACED_FRAME, placedFrame, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';

/** One of several frames that hold equal content. */
export interface DuplicateFrame extends PlacedFrame {
  note: string | null;
  /** ids of the piles that it is in */
  piles: string[];
  /** how often it was handed to editing, and delivered */
  handedOff: number;
  delivered: number;
  /** its files: how many, and the bytes of all their copies on all drives */
  files: number;
  bytes: number;
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

interface FileRow {
  frameId: string;
  sha256: string | null;
  bytes: number;
}

/** Frames that hold equal content, anywhere in the archive. It only looks. */
@Injectable()
export class DuplicatesService {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
  ) {}

  /** A page of them, in the order of their checksums; `after`: where the last page ended. */
  async page(after: string | null): Promise<Duplicates> {
    // In the order of the index, so that a page ends as soon as it is full. What was never hashed is equal to nothing.
    const shared = await this.long.rows<{ sha256: string }>(
      `SELECT a.sha256 FROM asset a JOIN frame_here f ON f.id = a."frameId"
       WHERE a.sha256 > ? AND a.role IN ('original', 'clip')
       GROUP BY a.sha256 HAVING COUNT(DISTINCT a."frameId") > 1 ORDER BY a.sha256 LIMIT ?`,
      [after ?? '', PAGE],
    );
    const contents = shared.map(({ sha256 }) => sha256);
    const groups = await this.groups(contents);
    return { groups, next: contents.length === PAGE ? contents.at(-1)! : null };
  }

  private async groups(contents: readonly string[]): Promise<Duplicate[]> {
    const { source } = this.reading;
    const holders: { sha256: string; frameId: string }[] = await source.query(
      `SELECT DISTINCT a.sha256, a."frameId" FROM asset a JOIN frame_here f ON f.id = a."frameId"
       WHERE a.sha256 IN (SELECT value FROM json_each(?)) AND a.role IN ('original', 'clip')`,
      [JSON.stringify(contents)],
    );
    const ids = JSON.stringify([...new Set(holders.map(({ frameId }) => frameId))]);
    const rows: (PlacedRow & { note: string | null; piles: string })[] = await source.query(
      `SELECT p.*, f.note, f.piles FROM (${PLACED_FRAME}) p JOIN frame f ON f.id = p.id
       WHERE p.id IN (SELECT value FROM json_each(?))`,
      [ids],
    );
    const files: FileRow[] = await source.query(
      `SELECT a."frameId", a.sha256, a.size * (SELECT COUNT(*) FROM copy c WHERE c."assetId" = a.id) AS bytes
       FROM asset a WHERE a."frameId" IN (SELECT value FROM json_each(?)) AND a.role <> 'sidecar'`,
      [ids],
    );
    const [handedOff, delivered] = await Promise.all([
      this.counted('handoff_file', 'handoffId', 'copied', ids),
      this.counted('delivery_file', 'deliveryId', 'made', ids),
    ]);
    const filesOf = grouped(files, ({ frameId }) => frameId);
    const frames = new Map(
      rows.map(({ note, piles, ...row }) => {
        const own = filesOf.get(row.id) ?? [];
        return [
          row.id,
          {
            ...placedFrame(row),
            ...{ note, piles: piles === '' ? [] : piles.split('+') },
            ...{ handedOff: handedOff.get(row.id) ?? 0, delivered: delivered.get(row.id) ?? 0 },
            ...{ files: own.length, bytes: own.reduce((sum, { bytes }) => sum + bytes, 0) },
          },
        ] as const;
      }),
    );
    const byContent = grouped(holders, ({ sha256 }) => sha256);
    return [...byContent]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .flatMap(([id, of]) => {
        const held = of.flatMap(({ frameId }) => frames.get(frameId) ?? []);
        // A raw with its picture shares two contents with its double: they are one group, under the first.
        if (held.length < 2 || this.isFurther(id, held, filesOf)) return [];
        const all = held.map((frame) => ({ ...frame, within: holdersOf(frame.id, held, filesOf) }));
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

  /** In how many hand-offs or deliveries each frame was. */
  private async counted(
    table: 'handoff_file' | 'delivery_file',
    of: string,
    fate: string,
    ids: string,
  ): Promise<Map<string, number>> {
    const rows: { frameId: string; n: number }[] = await this.reading.source.query(
      `SELECT "frameId", COUNT(DISTINCT "${of}") AS n FROM "${table}"
       WHERE "frameId" IN (SELECT value FROM json_each(?)) AND fate = ? GROUP BY 1`,
      [ids, fate],
    );
    return new Map(rows.map(({ frameId, n }) => [frameId, n]));
  }
}

/** The others that hold all files of a frame. A file without a checksum is equal to nothing. */
function holdersOf(
  id: string,
  held: readonly { id: string }[],
  filesOf: ReadonlyMap<string, FileRow[]>,
): string[] {
  const own = filesOf.get(id) ?? [];
  return held.flatMap((other) => {
    if (other.id === id) return [];
    const its = new Set(filesOf.get(other.id)?.map(({ sha256 }) => sha256));
    return own.every(({ sha256 }) => sha256 !== null && its.has(sha256)) ? [other.id] : [];
  });
}

function grouped<T>(rows: readonly T[], keyOf: (row: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}
