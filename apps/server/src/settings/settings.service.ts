import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  describePatternProblem,
  parsePattern,
  DEFAULT_MESSAGES,
  type MessageKind,
  type MessageWords,
  DEFAULT_FOLDER_PLAN,
  DEFAULT_NAME_PATTERN,
  DEFAULT_OUTPUT_SPECS,
  DEFAULT_RULES,
  DEFAULT_STAGES,
  type FolderPlan,
  type KeeperRules,
  type Label,
  type MetadataTemplate,
  type OutputSpec,
  type SavedPlan,
  type SequenceScope,
  type NamedFinish,
  type Stage,
  withFolders,
} from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Ids } from '../system/ids';
import { Setting } from './setting.entity';

/** What the studio decides once. */
export interface StudioSettings {
  /** the studio's name; empty: not said yet */
  studio: string;
  /** the archive's own name where it is not the studio's */
  archiveName: string;
  /** whether the first visit is over, be it by skipping it */
  welcomed: boolean;
  creator: string;
  rights: string;
  pattern: string;
  folders: FolderPlan;
  /** whether numbers run through a shoot or begin anew each day */
  seqBy: SequenceScope;
  /** saved plans; the one that is the default gave pattern, folders and scope above */
  plans: SavedPlan[];
  /** id of the default plan; null: none was saved yet */
  plan: string | null;
  templates: MetadataTemplate[];
  /** id of the metadata template that is chosen at first; null: none */
  template: string | null;
  rules: KeeperRules;
  /** the text each label writes to sidecars */
  labels: Record<Label, string>;
  /** texts of other programs and languages that mean a label */
  labelAlso: Record<Label, string[]>;
  /** what a keeper without stars says in sidecars as its rating, 1…5, and one without a label as that; 0 and null: nothing */
  keeperStars: number;
  keeperLabel: Label | null;
  /** what the studio calls each label, and what it means by it; empty: the colour's name, nothing */
  labelWords: Record<Label, LabelWords>;
  /** where keepers stand between hand-off and delivery, in their order */
  stages: Stage[];
  /** what frames are finished with, kept by name */
  finishes: NamedFinish[];
  /** what clients are written, with fields in braces */
  messages: Record<MessageKind, MessageWords>;
  /** verified copies on distinct devices before a card may be cleared */
  requiredCopies: number;
  /** days within which each copy is read again by itself; 0: none is */
  verifyDays: number;
  /** copies that are missing are made by themselves, when the drives are there; not of adopted folders */
  copyMissing: boolean;
  /** 0…23 */
  dayStartHour: number;
  outputSpecs: OutputSpec[];
  /** most that previews may take, in 10^9 bytes; they can be made again */
  previewGigabytes: number;
  /** keys of the interface's actions where they differ from those it comes with, by the action's id */
  keys: Record<string, string[]>;
  /** filters and layouts of Cull that were kept by name; what is in them is the interface's own */
  filters: KeptByName[];
  layouts: KeptByName[];
  /** what is looked for again and again in the archive, with the newest frame that was seen in it */
  searches: KeptByName[];
  /** ways to shoots, folders, albums and searches: the value holds the `address` below the page’s own */
  bookmarks: KeptByName[];
  /** what this computer can open frames in: said from this computer alone, and told nobody else */
  programs: Program[];
}

/** Another program on this computer that frames can be opened in. */
export interface Program {
  name: string;
  /** path of the program, or its name where the system finds it */
  command: string;
  args: string[];
  /** which file of a frame it gets, where it has both */
  takes: 'raw' | 'picture';
}

export interface KeptByName {
  name: string;
  value: object;
}

export interface LabelWords {
  name: string;
  meaning: string;
}

/** An archive is known by its id in its database, on its drives, in its shoots' folders and in browsers. */
export interface ArchiveIdentity {
  id: string;
  name: string;
}

/** What an archive is called before anybody has named it or the studio. */
const UNNAMED = 'Arkiv';
const ARCHIVE_ID = 'archiveId';
/** ids of the empty archives that this one was before it was made anew from its drives */
const FORMER_IDS = 'archiveFormerIds';
const NO_WORDS: LabelWords = { name: '', meaning: '' };

export const DEFAULT_SETTINGS: StudioSettings = {
  studio: '',
  archiveName: '',
  welcomed: false,
  creator: '',
  rights: '',
  pattern: DEFAULT_NAME_PATTERN,
  folders: DEFAULT_FOLDER_PLAN,
  seqBy: 'shoot',
  plans: [],
  plan: null,
  templates: [],
  template: null,
  rules: DEFAULT_RULES,
  labels: { A: 'Amber', B: 'Brick', M: 'Moss', S: 'Slate', P: 'Plum' },
  labelAlso: { A: [], B: [], M: [], S: [], P: [] },
  keeperStars: 0,
  keeperLabel: null,
  labelWords: { A: NO_WORDS, B: NO_WORDS, M: NO_WORDS, S: NO_WORDS, P: NO_WORDS },
  stages: [...DEFAULT_STAGES],
  finishes: [],
  messages: DEFAULT_MESSAGES,
  // Two copies on two devices is what the trade calls the least before a card is cleared (common practice, no source).
  requiredCopies: 2,
  // Twice a year: makers of disks name latent errors by the year, and a terabyte is some six gigabytes a day.
  verifyDays: 180,
  copyMissing: false,
  // A party ends before four, and nobody's working day begins before it.
  dayStartHour: 4,
  outputSpecs: [...DEFAULT_OUTPUT_SPECS],
  // Thumbnails and screen previews of some 40,000 frames, and a small part of any drive that holds an archive.
  previewGigabytes: 20,
  keys: {},
  filters: [],
  layouts: [],
  searches: [],
  bookmarks: [],
  programs: [],
};

@Injectable()
export class SettingsService {
  private archiveId: Promise<string> | null = null;
  private former: readonly string[] | null = null;
  /** asked for with each look at a drive, and with most answers */
  private known: Promise<Readonly<Record<string, unknown>>> | null = null;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {
    // Before anybody else hears of it: it is made first.
    happenings.on('settings', () => (this.known = null));
  }

  /** Which archive this is; its id is made at the first asking and never changes. */
  async archive(): Promise<ArchiveIdentity> {
    this.archiveId ??= this.ownId().catch((error: unknown) => {
      this.archiveId = null;
      throw error;
    });
    const { studio, archiveName } = await this.all();
    return { id: await this.archiveId, name: archiveName || studio || UNNAMED };
  }

  /** Ids that drives may still bear for this archive, though it is known by another one by now. */
  async formerIds(): Promise<readonly string[]> {
    this.former ??= ((await this.reading.manager.findOneBy(Setting, { key: FORMER_IDS }))?.value ??
      []) as string[];
    return this.former;
  }

  /** This is the archive of that id from now on, which was made anew from its drives. */
  async become(id: string): Promise<void> {
    const { id: before } = await this.archive();
    const former = [...new Set([...(await this.formerIds()), before])].filter((one) => one !== id);
    await this.work.write(async (manager) => {
      await manager.save(Setting, { key: ARCHIVE_ID, value: id });
      await manager.save(Setting, { key: FORMER_IDS, value: former });
      this.happenings.after(manager, 'settings', {});
    });
    this.archiveId = null;
    this.former = null;
  }

  private ownId(): Promise<string> {
    return this.work.write(async (manager) => {
      const known = await manager.findOneBy(Setting, { key: ARCHIVE_ID });
      if (known) return known.value as string;
      const id = this.ids.newId();
      await manager.insert(Setting, { key: ARCHIVE_ID, value: id });
      return id;
    });
  }

  /** What is within them is everybody’s, and frozen. */
  async all(): Promise<StudioSettings> {
    this.known ??= this.read().catch((error: unknown) => {
      this.known = null;
      throw error;
    });
    return { ...DEFAULT_SETTINGS, ...(await this.known) } as StudioSettings;
  }

  /** What was written past this service is asked for anew. */
  readAnew(): void {
    this.known = null;
  }

  private async read(): Promise<Record<string, unknown>> {
    const rows = await this.reading.manager.find(Setting);
    return Object.fromEntries(rows.map(({ key, value }) => [key, frozen(asNow(key, value))]));
  }

  /** Throws `request.invalid` for a name pattern that nothing can be named by. */
  async set(values: Partial<StudioSettings>): Promise<StudioSettings> {
    const read = typeof values.pattern === 'string' ? parsePattern(values.pattern) : null;
    if (read && !read.ok)
      throw new ArkivError('request.invalid', {
        reason: describePatternProblem(values.pattern!, read.problem),
      });
    await this.work.write(async (manager) => {
      for (const [key, value] of Object.entries(values)) {
        // What can be none is none until it is chosen.
        if (value === null) await manager.delete(Setting, { key });
        else await manager.save(Setting, { key, value });
      }
      this.happenings.after(manager, 'settings', {});
    });
    return this.all();
  }
}

/** A value as this version has it. */
const asNow = (key: string, value: unknown): unknown =>
  key === 'outputSpecs' ? (value as OutputSpec[]).map(withFolders) : value;

/** The same value, which nobody can change any more. */
function frozen<T>(value: T): T {
  if (typeof value === 'object' && value !== null) Object.values(Object.freeze(value)).forEach(frozen);
  return value;
}
