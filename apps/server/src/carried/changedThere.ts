import type { NamedPlace, RecordRow } from '@arkiv/core';

/** A frame of this archive before anything of another one is taken in. */
export interface FrameHere {
  id: string;
  shootId: string;
  name: string;
  place: string;
  state: string;
}

/** A file of this archive on the drive that came. */
export interface CopyHere {
  assetId: string;
  /** below the drive */
  at: string;
  /** its frame was binned here while the drive was away: it is still to go into the bin there */
  due?: true;
}

/** A frame that was given another name or folder there. */
export interface NamedThere extends NamedPlace {
  shootId: string;
  /** what it is called here */
  here: string;
}

/** A frame that was taken out of its shoot there. */
export interface OutThere {
  id: string;
  shootId: string;
  name: string;
}

/** What became of files there that are known here. */
export interface ChangedThere {
  /** files that lie elsewhere on the drive by now */
  lie: CopyHere[];
  named: NamedThere[];
  out: OutThere[];
}

interface FileRow {
  id: string;
  frameId: string | null;
  name: string;
}
interface PlacedRow {
  assetId: string;
  volumeId: string;
  path: string | null;
}

/**
 * What another archive's record says of files that are known here. Whether a name was given there and not here is told by the drive: what
 * is renamed here is renamed on all drives, or waits for them.
 */
export function changedThere(
  rows: readonly RecordRow[],
  volumeId: string,
  frames: readonly FrameHere[],
  copies: readonly CopyHere[],
): ChangedThere {
  const of = <T>(table: string): T[] => rows.flatMap(({ is, row }) => (is === table ? (row as T) : []));
  const theirs = new Map(of<FrameHere & { folder: string }>('frame').map((frame) => [frame.id, frame]));
  const files = new Map(of<FileRow>('asset').map((file) => [file.id, file]));
  const here = new Map(copies.map((copy) => [copy.assetId, copy]));
  const lie: CopyHere[] = [];
  const elsewhere = new Set<string>();
  for (const { assetId, volumeId: on, path } of of<PlacedRow>('copy')) {
    const [file, before] = [files.get(assetId), here.get(assetId)];
    if (on !== volumeId || !file || !before) continue;
    const frame = theirs.get(file.frameId ?? '');
    const at =
      path ??
      (file.name.startsWith('/') ? file.name.slice(1) : frame && `${frame.place}/${frame.name}${file.name}`);
    if (at === undefined || at === before.at) continue;
    lie.push({ ...before, at });
    if (file.frameId !== null) elsewhere.add(file.frameId);
  }
  // What was binned there lies in a bin that is not known here: it is a copy like any other until it is binned here too.
  for (const { assetId, volumeId: on, path } of of<PlacedRow>('binned_copy')) {
    const before = here.get(assetId);
    if (on === volumeId && before && path !== null && path !== before.at) lie.push({ ...before, at: path });
  }
  const named: NamedThere[] = [];
  const out: OutThere[] = [];
  for (const { id, shootId, name, place, state } of frames) {
    const there = theirs.get(id);
    if (!there || state !== 'here') continue;
    if (there.state === 'binned' || there.state === 'forgotten') out.push({ id, shootId, name });
    // What went into another shoot there is told by that shoot.
    else if (
      there.state === 'here' &&
      there.shootId === shootId &&
      elsewhere.has(id) &&
      (there.name !== name || there.place !== place)
    )
      named.push({ id, shootId, here: name, name: there.name, folder: there.folder, place: there.place });
  }
  return { lie, named, out };
}

/** What lies in a bin, by the tables that tell of it. */
const IN_BINS = ['binned_frame', 'binned_file', 'binned_copy'];
/** What a frame that is here has. */
const OF_FILES = ['copy', 'damage'];

/**
 * What of another archive's rows may stand beside what is known here. Of frames that are known here this archive says whether they are in
 * a bin and what is still to be done with their files: what was binned or deleted there is done here when somebody says so, and what was
 * taken out here does not come back. Where their files lie is said here too, but on drives that were there.
 *
 * @param frames those of the rows that are known here
 * @param atHome drives that are known here and were not there
 */
export function withoutKnown(
  rows: readonly RecordRow[],
  frames: readonly FrameHere[],
  atHome: ReadonlySet<string>,
): RecordRow[] {
  const known = new Map(frames.map(({ id, state }) => [id, state]));
  const files = new Map<string, string | undefined>();
  for (const { is, row } of rows)
    if (is === 'asset') files.set(String(row.id), known.get(String(row.frameId)));
  const isOut = (state: string | undefined) => state === 'binned' || state === 'forgotten';
  const kept = rows.filter(({ is, row }) => {
    if (IN_BINS.includes(is)) return !known.has(String(row.frameId));
    if (is === 'asset') return !isOut(files.get(String(row.id)));
    if (!OF_FILES.includes(is)) return true;
    const state = files.get(String(row.assetId));
    return state === undefined || (!isOut(state) && !atHome.has(String(row.volumeId)));
  });
  // A time of binning of which nothing is left is none.
  const bins = new Set(kept.flatMap(({ is, row }) => (is === 'binned_frame' ? String(row.binId) : [])));
  return kept.filter(({ is, row }) => is !== 'bin' || bins.has(String(row.id)));
}
