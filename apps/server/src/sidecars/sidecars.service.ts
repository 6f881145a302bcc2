import { setImmediate as turn } from 'node:timers/promises';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import {
  ArkivError,
  EMPTY_DESCRIPTION,
  EMPTY_SIDECAR,
  joinedKeywords,
  keywordKey,
  keywordsIn,
  marksOf,
  PROGRAM,
  saidIn,
  stamped,
  TEXT_FIELDS,
  textKind,
  textsIn,
  treeOf,
  wordChanges,
  mergeSidecars,
  sidecarOf,
  writeSidecar,
  type Foreign,
  type Label,
  type MarkField,
  type MarkOperation,
  type SidecarModel,
  type Vocabulary,
} from '@arkiv/core';
import { In, MoreThan } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { DueTexts } from '../frames/dueTexts.service';
import { FrameStore } from '../frames/frameStore';
import { FrameText } from '../frames/frameText.entity';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService, type FoundText } from '../frames/ownTexts.service';
import { MarksService } from '../marks/marks.service';
import { Parser } from '../metadata/parser';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { labelFor } from '../settings/labelFor';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { VocabularyService } from '../vocabulary/vocabulary.service';
import type { Volume } from '../volumes/volume.entity';
import { volumeError, VolumesService } from '../volumes/volumes.service';

/** Milliseconds of quiet before sidecars are written: several keys on one frame become one writing. */
const QUIET = 400;
/** Longest wait for quiet: while frames arrive several a second there is none. */
const MOST_WAIT = 2000;
/** What a sidecar needs on a drive: one block of most file systems. */
const SIDECAR_BYTES = 4096;
/** Frames whose sidecars are written at once: while one is flushed, others are read and parsed. Two wrote 54 a second, four 69, eight 72. */
const IN_FLIGHT = 4;
/** Frames written in one go, so that marks and shutdown get their turn. */
const BATCH = 100;

/** Sidecars that a drive has not got yet, and why. */
export interface WaitingSidecars {
  volumeId: string;
  volume: string;
  frames: number;
  reason: string;
}

/** Keeps each frame's sidecar, on every volume that holds the frame, in step with its marks. */
@Injectable()
export class SidecarsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('sidecars');
  private timer: NodeJS.Timeout | null = null;
  /** since when something waits for quiet; null: nothing does */
  private waitsSince: number | null = null;
  private writing: Promise<void> = Promise.resolve();
  private stopping = false;
  /** by drive: the frames whose sidecar was refused there, and what was said last; what is due after a start is tried then */
  private readonly refused = new Map<string, { frames: Set<string>; reason: string }>();

  /** what keepers say to other programs, as it was when their sidecars were due for it last */
  private said: string | null = null;
  private saying: Promise<void> = Promise.resolve();

  /** what waits has changed in this round */
  private toTell = false;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly frames: FramesService,
    private readonly store: FrameStore,
    private readonly due: DueTexts,
    private readonly texts: OwnTextsService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly parser: Parser,
    private readonly marks: MarksService,
    private readonly vocabulary: VocabularyService,
  ) {
    due.register('sidecar', (volume, frameId) => this.catchUp(volume, frameId));
    happenings.on('volumes', () => this.soon());
    happenings.on('frames', () => this.soon());
    happenings.on('due', () => this.soon());
    happenings.on('settings', () => void this.sayAnew());
  }

  async onApplicationBootstrap(): Promise<void> {
    this.said = saidBy(await this.settings.all());
    this.soon();
  }

  /** What keepers say to other programs is another by now: their sidecars are due, a part at a time. */
  private sayAnew(): Promise<void> {
    this.saying = this.saying
      .then(async () => {
        const now = saidBy(await this.settings.all());
        if (this.said === now) return;
        for (let after = ''; !this.stopping;) {
          const keepers = await this.reading.manager.find(Frame, {
            where: { verdict: 'keep', state: 'here', id: MoreThan(after) },
            select: { id: true },
            order: { id: 'ASC' },
            take: BATCH,
          });
          if (keepers.length === 0) break;
          const ids = keepers.map(({ id }) => id);
          await this.work.write((manager) => this.store.due(manager, ids));
          after = ids.at(-1)!;
        }
        this.said = now;
      })
      .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.saying;
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.timer) clearTimeout(this.timer);
    await this.saying;
    await this.flush();
  }

  soon(): void {
    if (this.stopping) return;
    const now = this.clock.now();
    this.waitsSince ??= now;
    if (this.timer) clearTimeout(this.timer);
    const wait = Math.max(0, Math.min(QUIET, this.waitsSince + MOST_WAIT - now));
    this.timer = setTimeout(() => void this.flush(), wait);
  }

  /** Writes everything that is due now, and what drives that were away owe. What cannot be written stays due. */
  async flush(): Promise<void> {
    await this.saying;
    this.waitsSince = null;
    this.writing = this.writing
      .then(() => this.writeDue())
      .then(() => this.tell())
      .catch((error: unknown) => this.log.error((error as Error).stack));
    await this.writing;
    await this.due.flush('sidecar');
  }

  /** Runs `work` while no sidecar is being written; those that are due wait until it is done. */
  without<T>(work: () => Promise<T>): Promise<T> {
    const run = this.writing.then(work);
    this.writing = run.then(
      () => undefined,
      () => undefined,
    );
    return run;
  }

  /** What waits for each drive: refused by one that is here, or owed to one that is away. */
  async waiting(): Promise<WaitingSidecars[]> {
    const owed = await this.due.counts('sidecar');
    const waiting: WaitingSidecars[] = [];
    for (const { id: volumeId, name: volume } of await this.volumes.all()) {
      const refused = this.refused.get(volumeId);
      const away = owed.get(volumeId) ?? 0;
      if (refused && refused.frames.size > 0)
        waiting.push({ volumeId, volume, frames: refused.frames.size, reason: refused.reason });
      else if (away > 0)
        waiting.push({ volumeId, volume, frames: away, reason: 'They are written when it is connected.' });
    }
    return waiting;
  }

  private note(volume: Volume, frameId: string, reason: string | null): void {
    const refused = this.refused.get(volume.id) ?? { frames: new Set<string>(), reason: '' };
    if (reason === null) {
      if (refused.frames.delete(frameId)) this.toTell = true;
      return;
    }
    refused.frames.add(frameId);
    refused.reason = reason;
    this.refused.set(volume.id, refused);
    this.toTell = true;
  }

  /** Once a round: what waits has changed. */
  private tell(): void {
    if (!this.toTell) return;
    this.toTell = false;
    this.happenings.tell('sidecars', {});
  }

  private async writeDue(): Promise<void> {
    const settings = await this.settings.all();
    let after = '';
    for (;;) {
      const due = await this.reading.manager.find(Frame, {
        where: { sidecarDue: MoreThan(0), state: 'here', id: MoreThan(after) },
        order: { id: 'ASC' },
        take: BATCH,
      });
      if (due.length === 0) return;
      const frames = due.values();
      const lane = async (): Promise<void> => {
        for (const frame of frames) await this.tryFrame(frame, () => this.writeFrame(frame, settings));
      };
      await Promise.all(Array.from({ length: IN_FLIGHT }, lane));
      after = due.at(-1)!.id;
    }
  }

  /** One frame's failure is its own: the others are written all the same. */
  private async tryFrame(frame: Frame, write: () => Promise<void>): Promise<void> {
    try {
      await write();
    } catch (error) {
      this.log.error(`the sidecar of ${frame.id}: ${(error as Error).stack}`);
      const message = `Its sidecar could not be written: ${(error as Error).message}`;
      this.happenings.tell('sidecar', { frameId: frame.id, name: frame.name, message });
    }
  }

  /** Brings one drive's sidecar of a frame up to date, in turn with the others. */
  private catchUp(volume: Volume, frameId: string): Promise<void> {
    return this.without(async () => {
      const frame = await this.reading.manager.findOneBy(Frame, { id: frameId });
      // What is due anyway is written on all drives in the round that follows.
      // A failure is the caller's: what it was to bring up to date stays due then.
      if (frame && frame.sidecarDue === 0) await this.writeFrame(frame, await this.settings.all(), volume.id);
      this.tell();
    });
  }

  /** Writes a frame's sidecar on every drive that is here, or on one alone; drives that are away owe it from then on. */
  private async writeFrame(frame: Frame, settings: StudioSettings, only?: string): Promise<void> {
    const places = (await this.places(frame)).filter(
      ({ volume }) => only === undefined || volume.id === only,
    );
    const away: string[] = [];
    const written: string[] = [];
    const text = await this.reading.manager.findOneBy(FrameText, { frameId: frame.id });
    let model = this.modelOf(frame, text, settings, await this.vocabulary.all());
    let foreign = text?.foreign ?? null;
    let complete = places.length > 0;
    for (const { volume, path } of places) {
      if (!(await this.volumes.isOnline(volume))) {
        away.push(volume.id);
        // It refuses nothing any more: it owes.
        this.note(volume, frame.id, null);
        this.toTell = true;
        continue;
      }
      try {
        ({ model, foreign } = await this.writeOne(frame, text, volume, path, { model, foreign }, settings));
        written.push(volume.id);
        this.note(volume, frame.id, null);
      } catch (error) {
        complete = false;
        const free = (await this.volumes.status(volume)).space?.free ?? 0;
        const shown =
          diskErrorCode(error) === null ? error : volumeError(error, volume, path, SIDECAR_BYTES, free);
        const message =
          shown instanceof ArkivError ? `${shown.message} ${shown.body().next}` : (shown as Error).message;
        this.note(volume, frame.id, message);
        this.happenings.tell('sidecar', {
          frameId: frame.id,
          name: frame.name,
          volume: volume.name,
          message,
        });
        this.log.warn(
          `a sidecar on “${volume.name}” could not be written: ${error instanceof ArkivError ? error.code : (error as Error).message}`,
        );
      }
    }
    await this.work.write(async (manager) => {
      // A mark made meanwhile has counted up: then the frame stays due.
      const now = await manager.findOneBy(Frame, { id: frame.id });
      if (!now) return;
      for (const volumeId of written) await this.due.settle(manager, volumeId, 'sidecar', frame.id);
      await this.due.owe(manager, away, 'sidecar', frame.id);
      const rest = complete && now.sidecarDue === frame.sidecarDue ? 0 : Math.max(1, now.sidecarDue);
      const said = complete ? { sidecarBase: model } : null;
      await this.store.sidecarsWritten(manager, frame.id, rest, said);
      // Drives that came before the one on which it was found are written once more.
      if (foreign !== null && foreign.key !== text?.foreign?.key)
        await this.store.foreignFound(manager, frame.id, foreign);
    });
  }

  /**
   * The text that a copy of the frame's sidecar is to hold: what is said of the frame by now, put into what lies there, so that
   * all else in it stays. What another program changed there since it said `base` is taken into the frame's marks first, and what it
   * keeps there of its own into all sidecars of the frame, where `there` is a sidecar. Throws where it cannot be read.
   */
  async textInCopy(
    frameId: string,
    there: CopyText,
    base: SidecarModel | null,
    path: string,
  ): Promise<{ text: string; model: SidecarModel; foreign: string | null }> {
    const frame = await this.reading.manager.findOneByOrFail(Frame, { id: frameId });
    const settings = await this.settings.all();
    const text = await this.reading.manager.findOneBy(FrameText, { frameId });
    let model = this.modelOf(frame, text, settings, await this.vocabulary.all());
    if (there.changedOutside && there.text !== null) {
      const theirs = await this.parser.readSidecar(there.text);
      if (!theirs.ok) throw new ArkivError('sidecar.malformed', { file: path, reason: theirs.reason });
      // Where nobody knows what it said before, nothing that it does not say was taken off there.
      const since = { ...text, frameId, sidecarBase: base ?? EMPTY_SIDECAR } as FrameText;
      model = await this.merge(frame, since, model, theirs.model, settings);
    }
    // What is inside of a picture belongs to that picture alone.
    if (there.foreign === undefined)
      return { text: await this.textOf(model, there.text, path, null), model, foreign: null };
    const kept = text?.foreign ?? null;
    const found = { ...there, foreign: there.foreign };
    const foreign = await this.foreignNow(frame, found, kept);
    if (foreign !== null && foreign.key !== kept?.key)
      await this.work.write((manager) => this.store.foreignFound(manager, frameId, foreign));
    return {
      text: await this.textOf(model, there.text, path, foreign),
      model,
      foreign: foreign?.key ?? null,
    };
  }

  /**
   * Frames of which is said something else by now than a copy of their sidecar said last; where nobody knows what it said, it is taken
   * for something else. Where keepers stand is no word to who edits them, nor is a label that says just that.
   */
  async differing(copies: ReadonlyMap<string, SidecarModel | null>): Promise<Set<string>> {
    const settings = await this.settings.all();
    const vocabulary = await this.vocabulary.all();
    const ids = [...copies.keys()];
    const ofStages = settings.stages.flatMap(({ label }) => (label === null ? [] : settings.labels[label]));
    const told = (model: SidecarModel): string => {
      const { stage: _stage, metadataDate: _date, keywordTree: _tree, ...rest } = model;
      const label = rest.label !== null && ofStages.includes(rest.label) ? null : rest.label;
      const without = { stage: null, metadataDate: null, keywordTree: [], label };
      return JSON.stringify({ ...EMPTY_SIDECAR, ...rest, ...without });
    };
    const differing = new Set<string>();
    for (let at = 0; at < ids.length; at += BATCH) {
      // Thousands of keepers take a while: others get their turn.
      await turn();
      const some = In(ids.slice(at, at + BATCH));
      const texts = new Map(
        (await this.reading.manager.findBy(FrameText, { frameId: some })).map((text) => [text.frameId, text]),
      );
      for (const frame of await this.reading.manager.findBy(Frame, { id: some })) {
        const said = copies.get(frame.id);
        // Nothing was said of it since.
        if (said && frame.markedAt > 0 && said.metadataDate === new Date(frame.markedAt).toISOString())
          continue;
        const now = this.modelOf(frame, texts.get(frame.id) ?? null, settings, vocabulary);
        if (!said || told(said) !== told(now)) differing.add(frame.id);
      }
    }
    return differing;
  }

  /** What frames' sidecars are to say by now, by frame. */
  async saidOf(frames: readonly Frame[]): Promise<Map<string, Said>> {
    const vocabulary = await this.vocabulary.all();
    const settings = await this.settings.all();
    const isTold = (keyword: string) =>
      vocabulary
        .named(keyword)
        .filter(({ word }) => keywordKey(word) === keywordKey(keyword))
        .every(({ deliver }) => deliver);
    const said = new Map<string, Said>();
    for (let from = 0; from < frames.length; from += BATCH) {
      const some = frames.slice(from, from + BATCH);
      const texts = await this.reading.manager.findBy(FrameText, { frameId: In(some.map(({ id }) => id)) });
      const byFrame = new Map(texts.map((text) => [text.frameId, text]));
      for (const frame of some)
        said.set(frame.id, {
          model: this.modelOf(frame, byFrame.get(frame.id) ?? null, settings, vocabulary),
          isTold,
        });
    }
    return said;
  }

  /** What a sidecar says; null where it cannot be read. */
  async saidIn(text: string): Promise<SidecarModel | null> {
    const read = await this.parser.readSidecar(text);
    return read.ok ? read.model : null;
  }

  /** Key of what other programs keep in a sidecar; null where it cannot be read. */
  async foreignIn(text: string): Promise<string | null> {
    return this.parser.foreignIn(text).then(
      ({ key }) => key,
      () => null,
    );
  }

  /** Writes one sidecar; where another program changed it since, merges first. Returns what now holds. */
  private async writeOne(
    frame: Frame,
    text: FrameText | null,
    volume: Volume,
    path: string,
    { model, foreign }: Holding,
    settings: StudioSettings,
  ): Promise<Holding> {
    // Twice: the file may change between looking and writing; a third change in a second is somebody's fight.
    for (let attempt = 0; attempt < 3; attempt++) {
      const found = await this.texts.read(volume, path);
      let wanted = model;
      if (found.text !== null && (found.changedOutside || !knowsAll(text?.sidecarBase ?? null))) {
        const theirs = await this.parser.readSidecar(found.text);
        if (!theirs.ok) throw new ArkivError('sidecar.malformed', { file: path, reason: theirs.reason });
        wanted = await this.merge(frame, text, model, theirs.model, settings);
      }
      const now = await this.foreignNow(frame, found, foreign);
      const written = await this.textOf(wanted, found.text, path, now);
      const key = now?.key ?? null;
      if (await this.texts.replace(volume, path, written, found.text, 'sidecar', key))
        return { model: wanted, foreign: now };
    }
    throw new ArkivError('file.exists', { file: path });
  }

  /** A new text is ours alone; one that is there is parsed where a broken one does no harm. */
  private async textOf(
    wanted: SidecarModel,
    there: string | null,
    path: string,
    foreign: Foreign | null,
  ): Promise<string> {
    if (there === null && foreign === null) return writeSidecar(wanted);
    const written = await this.parser.writeSidecar(wanted, there ?? undefined, foreign?.packet);
    if (!written.ok) throw new ArkivError('sidecar.malformed', { file: path, reason: written.reason });
    return written.text;
  }

  /**
   * What all sidecars of a frame are to hold of other programs, now that one was looked at: what is kept, or, where another program wrote
   * into this one since we did, what it wrote.
   */
  private async foreignNow(
    frame: Frame,
    found: Pick<FoundText, 'text' | 'changedOutside' | 'foreign'>,
    kept: Foreign | null,
  ): Promise<Foreign | null> {
    if (found.text === null || !found.changedOutside) return kept;
    const theirs = await this.parser.foreignIn(found.text);
    const isNothingNew = theirs.key === found.foreign || theirs.key === (kept?.key ?? '');
    if (isNothingNew) return kept;
    if (kept !== null && found.foreign !== null && kept.key !== found.foreign)
      this.happenings.tell('sidecar', {
        ...{ frameId: frame.id, name: frame.name },
        message:
          'Settings of other programs were changed in two of its sidecars; kept: those that were found last.',
      });
    return theirs;
  }

  private async merge(
    frame: Frame,
    text: FrameText | null,
    ours: SidecarModel,
    theirs: SidecarModel,
    settings: StudioSettings,
  ): Promise<SidecarModel> {
    const base = { ...EMPTY_SIDECAR, ...text?.sidecarBase };
    const theirTime = theirs.metadataDate ? Date.parse(theirs.metadataDate) : NaN;
    const { merged, conflicts } = mergeSidecars(base, ours, theirs, !(theirTime > frame.markedAt));
    for (const { field, winner } of conflicts) {
      this.happenings.tell('sidecar', {
        frameId: frame.id,
        name: frame.name,
        message: `${field} was changed in two places; kept: ${winner === 'ours' ? 'Arkiv’s' : 'the other program’s'}.`,
      });
    }
    const labelOf = (words: string): Label | null => labelFor(words, settings);
    const now = marksOf(merged, labelOf);
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: 'sidecar', by: PROGRAM };
    const shared = stamped(stamp);
    const changes: Pick<MarkOperation, 'kind' | 'from' | 'to'>[] = [
      ...(Object.keys(now) as MarkField[])
        .filter((kind) => now[kind] !== frame[kind])
        .map((kind) => ({ kind, from: frame[kind], to: now[kind] })),
      // What the studio says where a frame says nothing is no word of the frame's.
      ...TEXT_FIELDS.filter((field) => merged[field] !== ours[field]).map((field) => {
        const to = saidIn(merged[field] ?? '');
        return { kind: textKind(field), from: textsIn(frame.texts)[field] ?? null, to };
      }),
      ...wordChanges('keywords', frame.keywords, joinedKeywords(merged.keywords)),
      ...wordChanges('persons', frame.persons, joinedKeywords(merged.persons)),
    ];
    const operations = changes.map((change): MarkOperation => ({
      ...{ id: this.ids.newId(), subject: frame.id, ...change },
      ...shared,
    }));
    if (operations.length > 0) await this.marks.apply(operations);
    return merged;
  }

  /** Where the frame's sidecar belongs: beside its originals, on each volume that holds one of them. */
  private async places(frame: Frame): Promise<{ volume: Volume; path: string }[]> {
    const path = sidecarOf(frame.place, frame.name);
    const volumes = new Map<string, Volume>();
    for (const asset of await this.frames.originals([frame.id])) {
      for (const { volume } of await this.frames.copiesOf(asset.id)) volumes.set(volume.id, volume);
    }
    return [...volumes.values()].map((volume) => ({ volume, path }));
  }

  private modelOf(
    frame: Frame,
    text: FrameText | null,
    settings: StudioSettings,
    vocabulary: Vocabulary,
  ): SidecarModel {
    const keywords = keywordsIn(frame.keywords);
    return {
      frameId: frame.id,
      derivedFrom: frame.derivedFrom,
      verdict: frame.verdict,
      stars: frame.stars,
      label: frame.label ? settings.labels[frame.label] : foreignLabel(text?.sidecarBase ?? null, settings),
      note: frame.note,
      stage: frame.stage,
      take: frame.take,
      ...saidOf(frame, settings),
      preservedFileName: frame.original,
      clockCorrection: frame.correctionMillis || null,
      ...EMPTY_DESCRIPTION,
      creator: settings.creator || null,
      rights: settings.rights || null,
      ...textsIn(frame.texts),
      caption: frame.caption,
      keywords,
      keywordTree: treeOf(vocabulary, keywords),
      persons: keywordsIn(frame.persons),
      metadataDate: new Date(frame.markedAt || this.clock.now()).toISOString(),
    };
  }
}

/** What sidecars of a frame hold: what Arkiv says, and what other programs keep there. */
interface Holding {
  model: SidecarModel;
  /** null: nobody has looked */
  foreign: Foreign | null;
}

/** What lies where a copy of a sidecar is to be; `foreign` as in `FoundText`, missing where it stands inside of a picture. */
export interface CopyText {
  text: string | null;
  changedOutside: boolean;
  foreign?: string | null;
}

/** What a frame's sidecar is to say, and which of its keywords may be told to clients. */
export interface Said {
  model: SidecarModel;
  isTold: (keyword: string) => boolean;
}

/** Whether a sidecar was last written with all that is known by now: of the rest it may say something that nobody has read. */
const knowsAll = (base: SidecarModel | null): boolean =>
  base === null || Object.keys(EMPTY_SIDECAR).every((field) => field in base);

/** A label that another program wrote and the studio has no colour for stays as it is. */
function foreignLabel(base: SidecarModel | null, settings: StudioSettings): string | null {
  const text = base?.label ?? null;
  return text !== null && labelFor(text, settings) === null ? text : null;
}

/** What decides {@link saidOf}, to tell whether it has changed. */
const saidBy = ({ keeperStars, keeperLabel, labels }: StudioSettings): string =>
  `${keeperStars} ${keeperLabel === null ? '' : labels[keeperLabel]}`;

/** What a keeper without stars or label says in their place, so that programs which know no verdict see it. */
function saidOf(
  { verdict, stars, label }: Frame,
  { keeperStars, keeperLabel, labels }: StudioSettings,
): Pick<SidecarModel, 'saidStars' | 'saidLabel'> {
  const keeper = verdict === 'keep';
  return {
    saidStars: keeper && stars === 0 && keeperStars > 0 ? keeperStars : null,
    saidLabel: keeper && label === null && keeperLabel !== null ? labels[keeperLabel] : null,
  };
}
