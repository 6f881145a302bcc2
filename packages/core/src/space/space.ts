/** What a file is, as far as it matters for the room it takes. */
export const SPACE_KINDS = ['raw', 'picture', 'clip', 'edit', 'other'] as const;
export type SpaceKind = (typeof SPACE_KINDS)[number];

/** Copies of one kind on one drive, of shoots of one year. */
export interface SpaceRow {
  volumeId: string;
  /** of the shoots' days */
  year: string;
  kind: SpaceKind;
  bytes: number;
}

/** Of a shoot's copies on one drive those that have more on distinct disks than are wanted. */
export interface SpareRow {
  shootId: string;
  volumeId: string;
  spareFiles: number;
  spareBytes: number;
}

/** A drive, as far as it matters which of them is relieved first. */
export interface SpaceDrive {
  id: string;
  role: 'working' | 'backup' | 'edit';
  online: boolean;
  /** bytes; null: it is away */
  free: number | null;
  total: number | null;
}

export type KindBytes = Record<SpaceKind, number>;

const none = (): KindBytes => ({ raw: 0, picture: 0, clip: 0, edit: 0, other: 0 });

function grouped<K>(rows: readonly SpaceRow[], key: (row: SpaceRow) => K): Map<K, KindBytes> {
  const sums = new Map<K, KindBytes>();
  for (const row of rows) {
    const at = key(row);
    let sum = sums.get(at);
    if (!sum) sums.set(at, (sum = none()));
    sum[row.kind] += row.bytes;
  }
  return sums;
}

/** Bytes of all kinds together. */
export const sumOf = (bytes: KindBytes): number => SPACE_KINDS.reduce((sum, kind) => sum + bytes[kind], 0);

/** Bytes by kind: in the whole, on each drive, and of each year, the oldest first. Pure. */
export function spaceBy(rows: readonly SpaceRow[]): {
  all: KindBytes;
  drives: Map<string, KindBytes>;
  years: [year: string, bytes: KindBytes][];
} {
  return {
    all: grouped(rows, () => '').get('') ?? none(),
    drives: grouped(rows, ({ volumeId }) => volumeId),
    years: [...grouped(rows, ({ year }) => year)].sort(([a], [b]) => a.localeCompare(b)),
  };
}

/** A shoot's spare copies on the one drive that is best relieved of them. */
export interface SpareCopies {
  shootId: string;
  volumeId: string;
  files: number;
  bytes: number;
}

/**
 * Copies beyond those that are wanted: for each shoot the drive to take them off, the largest first. One drive for each shoot, as after
 * that as many fewer copies are there; whoever has more to spare finds the next when it is done. A drive for backup copies goes before
 * one that is worked from, one that is here before one that is away, and the fuller before the emptier. Pure.
 */
export function spareCopies(rows: readonly SpareRow[], drives: readonly SpaceDrive[]): SpareCopies[] {
  const rank = new Map([...drives].sort(byNeed).map(({ id }, at) => [id, at]));
  const spare = new Map<string, Map<string, SpareCopies>>();
  for (const { shootId, volumeId, spareFiles, spareBytes } of rows) {
    if (spareFiles === 0 || !rank.has(volumeId)) continue;
    const its = spare.get(shootId) ?? new Map<string, SpareCopies>();
    spare.set(shootId, its);
    const sum = its.get(volumeId) ?? { shootId, volumeId, files: 0, bytes: 0 };
    its.set(volumeId, sum);
    sum.files += spareFiles;
    sum.bytes += spareBytes;
  }
  return [...spare.values()]
    .map((its) => [...its.values()].sort((a, b) => rank.get(a.volumeId)! - rank.get(b.volumeId)!)[0]!)
    .sort((a, b) => b.bytes - a.bytes);
}

function byNeed(a: SpaceDrive, b: SpaceDrive): number {
  return (
    Number(a.role !== 'backup') - Number(b.role !== 'backup') ||
    Number(b.online) - Number(a.online) ||
    freeShare(a) - freeShare(b)
  );
}

const freeShare = ({ free, total }: SpaceDrive): number => (free === null || !total ? 1 : free / total);

/**
 * Shoots whose rejects go into the bin in one go, each by a job and a line of the bin of its own: years of a studio’s shoots, few enough
 * to be gone through by eye and by the server while somebody waits. The next ones are there when these are done.
 */
export const REJECTS_AT_ONCE = 200;

/**
 * The day so many months before another, both as YYYY-MM-DD; where that month is shorter, its last day. Pure.
 */
export function monthsBefore(day: string, months: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  const last = new Date(Date.UTC(year, month - months, 0)).getUTCDate();
  return new Date(Date.UTC(year, month - 1 - months, Math.min(date, last))).toISOString().slice(0, 10);
}
