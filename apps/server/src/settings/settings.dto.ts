import { ApiProperty } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  registerDecorator,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import {
  LONGEST_SUBJECT,
  LONGEST_TEXT,
  messageProblem,
  type MessageKind,
  type MessageWords,
  asksFor,
  NOT_KEPT,
  QUERY_FIELDS,
  filterProblem,
  FINISHES_AT_MOST,
  finishesProblem,
  LABELS,
  LONGEST_FINISH,
  LONGEST_STAGE,
  STAGES_AT_MOST,
  stagesProblem,
  type Filter,
  type KeeperRules,
  type Label,
  type NamedFinish,
  type OutputSpec,
  type MetadataTemplate,
  type SavedPlan,
  type SequenceScope,
  STAGE_BY,
  type Stage,
  type StageBy,
} from '@arkiv/core';
import type { KeptByName, LabelWords } from './settings.service';
import { FolderPlanDto, IsOutputSpecs, OutputSpecDto, SCOPES, TemplateTextsDto } from './plans.dto';

/** A filter from outside: checked by core's own rules. */
/** A rule asks for what is kept with a frame: its numbers are kept, and drives, shoots and clients change beside them. */
function ruleProblem(value: unknown): ReturnType<typeof filterProblem> {
  const problem = filterProblem(value);
  if (problem) return problem;
  const asked = NOT_KEPT.find((field) => asksFor(value as Filter, field));
  return asked === undefined
    ? null
    : { path: '/', expected: 'what is kept with a frame', found: `its ${QUERY_FIELDS[asked].words}` };
}

function IsFilter() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isFilter',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => ruleProblem(value) === null,
        defaultMessage: (args) => {
          const problem = ruleProblem(args?.value);
          return problem
            ? `filter at ${problem.path}: expected ${problem.expected}, found ${problem.found}`
            : '';
        },
      },
    });
}

function IsLabelTexts() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isLabelTexts',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => {
          const texts = LABELS.map((label) => (value as Record<string, unknown> | null)?.[label]);
          return (
            texts.every((t) => typeof t === 'string' && t.length > 0 && t.length <= 60) &&
            new Set(texts).size === LABELS.length
          );
        },
        defaultMessage: () => 'each of the five labels needs a text of its own of 1 to 60 characters',
      },
    });
}

/** Texts that mean one label: as many as there are programs and languages in a studio. */
const MOST_TEXTS = 20;

function IsLabelLists() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isLabelLists',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => {
          const lists = LABELS.map((label) => (value as Record<string, unknown> | null)?.[label]);
          const isText = (t: unknown) => typeof t === 'string' && t.trim().length > 0 && t.length <= 60;
          if (!lists.every((list) => Array.isArray(list) && list.length <= MOST_TEXTS && list.every(isText)))
            return false;
          const all = (lists as string[][]).flat().map((text) => text.toLowerCase());
          return new Set(all).size === all.length;
        },
        defaultMessage: () =>
          'each label has a list of texts of 1 to 60 characters, and no text means two of them',
      },
    });
}

/** Never, or within a month, a quarter, half a year, a year. */
const VERIFY_DAYS = [0, 30, 90, 180, 365];

export class StageDto implements Stage {
  @ApiProperty({ description: 'what frames keep of it' }) @IsString() @MaxLength(40) id: string;
  @ApiProperty() @IsString() @MaxLength(LONGEST_STAGE) name: string;
  @ApiProperty({ type: String, enum: LABELS, nullable: true, description: 'the label that says the same' })
  @IsIn([...LABELS, null])
  label: Label | null;
  @ApiProperty({ type: String, enum: STAGE_BY, nullable: true, description: 'what brings keepers here' })
  @IsIn([...STAGE_BY, null])
  by: StageBy | null;
}

function IsStages() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isStages',
      target: target.constructor,
      propertyName,
      validator: {
        // What is wrong with one of them is said by its own rules.
        validate: (value: unknown) =>
          !Array.isArray(value) || !value.every(isPlainStage) || stagesProblem(value as Stage[]) === null,
        defaultMessage: (asked) => stagesProblem(asked!.value as Stage[]) ?? 'the stages cannot be read',
      },
    });
}

const isPlainStage = (one: unknown): boolean => {
  const { id, name } = (one ?? {}) as Partial<Stage>;
  return typeof id === 'string' && typeof name === 'string';
};

export class NamedFinishDto implements NamedFinish {
  @ApiProperty() @IsString() @MaxLength(LONGEST_FINISH) name: string;
  @ApiProperty({ description: 'its values, joined by commas: exposure=0.35,mono=plain' })
  @IsString()
  @MaxLength(400)
  values: string;
}

function IsFinishes() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isFinishes',
      target: target.constructor,
      propertyName,
      validator: {
        // What is wrong with one of them is said by its own rules.
        validate: (value: unknown) =>
          !Array.isArray(value) ||
          !value.every(isPlainFinish) ||
          finishesProblem(value as NamedFinish[]) === null,
        defaultMessage: (asked) =>
          finishesProblem(asked!.value as NamedFinish[]) ?? 'the finishes cannot be read',
      },
    });
}

export class MessageWordsDto implements MessageWords {
  @ApiProperty() @IsString() @MaxLength(LONGEST_SUBJECT) subject: string;
  @ApiProperty() @IsString() @MaxLength(LONGEST_TEXT) text: string;
}

export class StudioMessagesDto implements Record<MessageKind, MessageWords> {
  @ApiProperty({ type: MessageWordsDto })
  @ValidateNested()
  @Type(() => MessageWordsDto)
  @IsMessage()
  invite: MessageWordsDto;
  @ApiProperty({ type: MessageWordsDto })
  @ValidateNested()
  @Type(() => MessageWordsDto)
  @IsMessage()
  reminder: MessageWordsDto;
  @ApiProperty({ type: MessageWordsDto })
  @ValidateNested()
  @Type(() => MessageWordsDto)
  @IsMessage()
  pictures: MessageWordsDto;
}

function IsMessage() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isMessage',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => isPlainMessage(value) && messageProblem(value) === null,
        defaultMessage: (asked) =>
          (isPlainMessage(asked!.value) && messageProblem(asked!.value)) || 'the message cannot be read',
      },
    });
}

const isPlainMessage = (one: unknown): one is MessageWords => {
  const { subject, text } = (one ?? {}) as Partial<MessageWords>;
  return typeof subject === 'string' && typeof text === 'string';
};

const isPlainFinish = (one: unknown): boolean => {
  const { name, values } = (one ?? {}) as Partial<NamedFinish>;
  return typeof name === 'string' && typeof values === 'string';
};

/** Actions that have keys, keys of one action, letters of a key's name: several times what the interface has. */
const MOST_KEYS = { actions: 300, each: 12, letters: 60 };

function IsKeys() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isKeys',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => {
          const entries = Object.entries(value as Record<string, unknown>);
          const isKey = (key: unknown) =>
            typeof key === 'string' && key.length > 0 && key.length <= MOST_KEYS.letters;
          return (
            entries.length <= MOST_KEYS.actions &&
            entries.every(
              ([, keys]) => Array.isArray(keys) && keys.length <= MOST_KEYS.each && keys.every(isKey),
            )
          );
        },
        defaultMessage: () =>
          'keys are lists of names of 1 to 60 characters, by the action that they are for',
      },
    });
}

const KEYS = {
  type: 'object' as const,
  additionalProperties: { type: 'array' as const, items: { type: 'string' as const } },
};
const ANY_OBJECT = { type: 'object' as const, additionalProperties: true };

export class KeeperRulesDto implements KeeperRules {
  @ApiProperty(ANY_OBJECT) @IsFilter() keeper: Filter;
  @ApiProperty(ANY_OBJECT) @IsFilter() reject: Filter;
}

/** Saved plans and templates; nobody chooses from a longer list. */
const MAX_SAVED = 100;

export class SavedPlanDto implements SavedPlan {
  @ApiProperty() @IsString() @Length(1, 40) id: string;
  @ApiProperty() @IsString() @Length(1, 80) name: string;
  @ApiProperty() @IsString() @Length(1, 200) pattern: string;
  @ApiProperty({ type: FolderPlanDto }) @ValidateNested() @Type(() => FolderPlanDto) folders: FolderPlanDto;
  @ApiProperty({ enum: SCOPES }) @IsIn(SCOPES) seqBy: SequenceScope;
}

export class MetadataTemplateDto extends TemplateTextsDto implements MetadataTemplate {
  @ApiProperty() @IsString() @Length(1, 40) id: string;
  @ApiProperty() @IsString() @Length(1, 80) name: string;
}

/** Letters of what is kept by a name, as JSON: far more than any filter that somebody puts together. */
const MOST_KEPT = 8000;

function IsSmall() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isSmall',
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value: unknown) => JSON.stringify(value ?? null).length <= MOST_KEPT,
        defaultMessage: () => `what is kept has at most ${MOST_KEPT} letters as JSON`,
      },
    });
}

export class KeptByNameDto implements KeptByName {
  @ApiProperty() @IsString() @Length(1, 60) name: string;
  @ApiProperty({ type: 'object', additionalProperties: true }) @IsObject() @IsSmall() value: object;
}

export class ArchiveDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
}

export class LabelWordsDto implements LabelWords {
  @ApiProperty() @IsString() @MaxLength(30) name: string;
  @ApiProperty() @IsString() @MaxLength(120) meaning: string;
}

export class AllLabelWordsDto implements Record<Label, LabelWords> {
  @ApiProperty({ type: LabelWordsDto }) @ValidateNested() @Type(() => LabelWordsDto) A: LabelWordsDto;
  @ApiProperty({ type: LabelWordsDto }) @ValidateNested() @Type(() => LabelWordsDto) B: LabelWordsDto;
  @ApiProperty({ type: LabelWordsDto }) @ValidateNested() @Type(() => LabelWordsDto) M: LabelWordsDto;
  @ApiProperty({ type: LabelWordsDto }) @ValidateNested() @Type(() => LabelWordsDto) S: LabelWordsDto;
  @ApiProperty({ type: LabelWordsDto }) @ValidateNested() @Type(() => LabelWordsDto) P: LabelWordsDto;
}

export class SettingsDto {
  @ApiProperty({ type: ArchiveDto }) archive: ArchiveDto;
  @ApiProperty() studio: string;
  @ApiProperty({ description: 'empty: the archive bears the studio’s name' }) archiveName: string;
  @ApiProperty({ description: 'the first visit is over' }) welcomed: boolean;
  @ApiProperty() creator: string;
  @ApiProperty() rights: string;
  @ApiProperty() pattern: string;
  @ApiProperty({ type: FolderPlanDto }) folders: FolderPlanDto;
  @ApiProperty({ enum: SCOPES }) seqBy: SequenceScope;
  @ApiProperty({ type: [SavedPlanDto] }) plans: SavedPlanDto[];
  @ApiProperty({ type: String, nullable: true }) plan: string | null;
  @ApiProperty({ type: [MetadataTemplateDto] }) templates: MetadataTemplateDto[];
  @ApiProperty({ type: String, nullable: true }) template: string | null;
  @ApiProperty({ type: KeeperRulesDto }) rules: KeeperRulesDto;
  @ApiProperty({ type: 'object', additionalProperties: { type: 'string' } }) labels: Record<Label, string>;
  @ApiProperty({ ...KEYS, description: 'texts of other programs and languages that mean a label' })
  labelAlso: Record<Label, string[]>;
  @ApiProperty({ description: 'rating that a keeper without stars says in sidecars, 1…5; 0: none' })
  keeperStars: number;
  @ApiProperty({ type: String, enum: LABELS, nullable: true, description: 'the same as a label; null: none' })
  keeperLabel: Label | null;
  @ApiProperty({ type: AllLabelWordsDto }) labelWords: AllLabelWordsDto;
  @ApiProperty({ type: [StageDto] }) stages: StageDto[];
  @ApiProperty({ type: [NamedFinishDto] }) finishes: NamedFinishDto[];
  @ApiProperty({ type: StudioMessagesDto }) messages: StudioMessagesDto;
  @ApiProperty() requiredCopies: number;
  @ApiProperty({ description: 'days within which each copy is read again by itself; 0: none is' })
  verifyDays: number;
  @ApiProperty({ description: 'copies that are missing are made by themselves, but of adopted folders' })
  copyMissing: boolean;
  @ApiProperty() dayStartHour: number;
  @ApiProperty({ type: [OutputSpecDto] }) outputSpecs: OutputSpecDto[];
  @ApiProperty({ description: 'most that previews may take, in 10^9 bytes' }) previewGigabytes: number;
  @ApiProperty({ type: [KeptByNameDto] }) filters: KeptByNameDto[];
  @ApiProperty({ type: [KeptByNameDto] }) layouts: KeptByNameDto[];
  @ApiProperty({ type: [KeptByNameDto] }) searches: KeptByNameDto[];
  @ApiProperty({ type: [KeptByNameDto], description: 'the value holds an address' })
  bookmarks: KeptByNameDto[];
  @ApiProperty({ ...KEYS, description: 'keys that differ from those that actions come with, by action' })
  keys: Record<string, string[]>;
  @ApiProperty({ description: 'simulated reader and drives are in use' }) standIns: boolean;
}

export class ChangeSettingsDto {
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(120) studio?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(120) archiveName?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsBoolean() welcomed?: boolean;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(120) creator?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(300) rights?: string;
  @ApiProperty({ required: false }) @IsOptional() @IsString() @MaxLength(200) pattern?: string;
  @ApiProperty({ required: false, type: FolderPlanDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => FolderPlanDto)
  folders?: FolderPlanDto;
  @ApiProperty({ required: false, enum: SCOPES }) @IsOptional() @IsIn(SCOPES) seqBy?: SequenceScope;
  @ApiProperty({ required: false, type: [SavedPlanDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => SavedPlanDto)
  plans?: SavedPlanDto[];
  @ApiProperty({ required: false, type: String, nullable: true })
  @IsOptional()
  @IsString()
  @MaxLength(40)
  plan?: string | null;
  @ApiProperty({ required: false, type: [MetadataTemplateDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => MetadataTemplateDto)
  templates?: MetadataTemplateDto[];
  @ApiProperty({ required: false, type: String, nullable: true })
  @IsOptional()
  @IsString()
  @MaxLength(40)
  template?: string | null;
  @ApiProperty({ required: false, type: KeeperRulesDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => KeeperRulesDto)
  rules?: KeeperRulesDto;
  @ApiProperty({ required: false, type: Object, additionalProperties: { type: 'string' } })
  @IsOptional()
  @IsObject()
  @IsLabelTexts()
  labels?: Record<Label, string>;
  @ApiProperty({ ...KEYS, type: Object, required: false })
  @IsOptional()
  @IsObject()
  @IsLabelLists()
  labelAlso?: Record<Label, string[]>;
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(0) @Max(5) keeperStars?: number;
  @ApiProperty({ required: false, type: String, enum: LABELS, nullable: true })
  @IsOptional()
  @IsIn([...LABELS, null])
  keeperLabel?: Label | null;
  @ApiProperty({ required: false, type: AllLabelWordsDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => AllLabelWordsDto)
  labelWords?: AllLabelWordsDto;
  @ApiProperty({ required: false, type: [StageDto] })
  @IsOptional()
  @ArrayMaxSize(STAGES_AT_MOST)
  @ValidateNested({ each: true })
  @Type(() => StageDto)
  @IsStages()
  stages?: StageDto[];
  @ApiProperty({ required: false, type: [NamedFinishDto] })
  @IsOptional()
  @ArrayMaxSize(FINISHES_AT_MOST)
  @ValidateNested({ each: true })
  @Type(() => NamedFinishDto)
  @IsFinishes()
  finishes?: NamedFinishDto[];
  @ApiProperty({ required: false, type: StudioMessagesDto })
  @IsOptional()
  @ValidateNested()
  @Type(() => StudioMessagesDto)
  messages?: StudioMessagesDto;
  @ApiProperty({ required: false, type: [OutputSpecDto] })
  @IsOptional()
  @IsOutputSpecs()
  outputSpecs?: OutputSpec[];
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(1) @Max(9) requiredCopies?: number;
  @ApiProperty({ required: false }) @IsOptional() @IsIn(VERIFY_DAYS) verifyDays?: number;
  @ApiProperty({ required: false }) @IsOptional() @IsBoolean() copyMissing?: boolean;
  // A whole gigabyte at least: below, previews would be made and thrown away in turns.
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(1) @Max(10_000) previewGigabytes?: number;
  @ApiProperty({ required: false }) @IsOptional() @IsInt() @Min(0) @Max(23) dayStartHour?: number;
  @ApiProperty({ required: false, type: [KeptByNameDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => KeptByNameDto)
  filters?: KeptByNameDto[];
  @ApiProperty({ required: false, type: [KeptByNameDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => KeptByNameDto)
  layouts?: KeptByNameDto[];
  @ApiProperty({ required: false, type: [KeptByNameDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => KeptByNameDto)
  searches?: KeptByNameDto[];
  @ApiProperty({ required: false, type: [KeptByNameDto] })
  @IsOptional()
  @ArrayMaxSize(MAX_SAVED)
  @ValidateNested({ each: true })
  @Type(() => KeptByNameDto)
  bookmarks?: KeptByNameDto[];
  @ApiProperty({ ...KEYS, type: Object, required: false }) @IsOptional() @IsObject() @IsKeys() keys?: Record<
    string,
    string[]
  >;
}
