import { Injectable } from '@nestjs/common';
import {
  DEFAULT_FOLDER_PLAN,
  DEFAULT_NAME_PATTERN,
  DEFAULT_OUTPUT_SPEC,
  DEFAULT_RULES,
  type FolderPlan,
  type KeeperRules,
  type Label,
  type MetadataTemplate,
  type OutputSpec,
  type SavedPlan,
  type SequenceScope,
} from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Setting } from './setting.entity';

/** What the studio decides once. */
export interface StudioSettings {
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
  /** verified copies on distinct devices before a card may be cleared */
  requiredCopies: number;
  /** 0…23 */
  dayStartHour: number;
  outputSpec: OutputSpec;
}

export const DEFAULT_SETTINGS: StudioSettings = {
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
  // Two copies on two devices is what the trade calls the least before a card is cleared (common practice, no source).
  requiredCopies: 2,
  // A party ends before four, and nobody's working day begins before it.
  dayStartHour: 4,
  outputSpec: DEFAULT_OUTPUT_SPEC,
};

@Injectable()
export class SettingsService {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
  ) {}

  async all(): Promise<StudioSettings> {
    const rows = await this.reading.manager.find(Setting);
    return {
      ...DEFAULT_SETTINGS,
      ...Object.fromEntries(rows.map((row) => [row.key, row.value])),
    } as StudioSettings;
  }

  async set(values: Partial<StudioSettings>): Promise<StudioSettings> {
    await this.work.write(async (manager) => {
      for (const [key, value] of Object.entries(values)) await manager.save(Setting, { key, value });
    });
    return this.all();
  }
}
