/** The places inside a shoot's folder. Names are the studio's; `originals` is always there. */
export interface FolderPlan {
  /** pattern of the shoot's folder, `/` between levels */
  path: string;
  originals: string;
  /** pattern of a folder inside `originals`, such as one for each card or body; missing or empty: none */
  below?: string;
  selects: string;
  edits: string;
  delivery: string;
  rejects: string;
}

export const DEFAULT_FOLDER_PLAN: FolderPlan = {
  path: '{capture:yyyy}/{capture:yyyy-MM-dd}_{shoot}',
  originals: 'originals',
  selects: 'selects',
  edits: 'edits',
  delivery: 'delivery',
  rejects: 'rejects',
};

export const DEFAULT_NAME_PATTERN = '{shoot}_{capture:yyyyMMdd}_{number:4}';

/** Our own folder of open text inside a shoot's folder. */
export const SHOOT_FOLDER = '.arkiv';
/** Where the archive's own lists lie, at the root of each drive. */
export const ARCHIVE_FOLDER = '.arkiv-archive';

/** Holds, of each shoot whose pictures lie in a folder that is not the archive's own, what others keep in their own. */
export const ADOPTED_TEXTS = `${ARCHIVE_FOLDER}/adopted`;

/** What a running number counts through: one shoot, each of its days anew, or one shoot after the other. */
export type SequenceScope = 'shoot' | 'day' | 'carried';

/** How a studio names files and lays out folders, under a name of its own. */
export interface SavedPlan {
  id: string;
  name: string;
  /** name pattern */
  pattern: string;
  folders: FolderPlan;
  seqBy: SequenceScope;
}
