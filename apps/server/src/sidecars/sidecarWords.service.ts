import { setImmediate as turn } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  EMPTY_DESCRIPTION,
  EMPTY_SIDECAR,
  finishChanges,
  joinedKeywords,
  keywordKey,
  keywordsIn,
  marksOf,
  mergeSidecars,
  PROGRAM,
  saidIn,
  stamped,
  TEXT_FIELDS,
  textKind,
  textsIn,
  treeOf,
  wordChanges,
  writeSidecar,
  type Foreign,
  type Label,
  type MarkField,
  type MarkOperation,
  type SidecarModel,
  type Vocabulary,
} from '@arkiv/core';
import { In } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { FrameStore } from '../frames/frameStore';
import { FrameText } from '../frames/frameText.entity';
import type { FoundText } from '../frames/ownTexts.service';
import { MarksService } from '../marks/marks.service';
import { Parser } from '../metadata/parser';
import { labelFor } from '../settings/labelFor';
import { SettingsService, type StudioSettings } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VocabularyService } from '../vocabulary/vocabulary.service';

/** Milliseconds: what a program saves of many frames comes within seconds, one after the other, and is one step of the history. */
const SAME_GO = 10_000;
/** Milliseconds after which a new step begins all the same: somebody who edits for hours takes back some of it. */
const LONGEST_GO = 5 * 60_000;

/** Frames whose words are looked up at once, so that others get their turn. */
const BATCH = 100;

/** What sidecars of a frame hold: what Arkiv says, and what other programs keep there. */
export interface Holding {
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

/** Where another program said it, as the journal tells: beside the archive's own pictures, or in copies that lie with editing. */
type SaidIn = 'sidecar' | 'copies';

/** What a frame's sidecar is to say, and which of its keywords may be told to clients. */
export interface Said {
  model: SidecarModel;
  isTold: (keyword: string) => boolean;
}

/** What sidecars say, and what other programs say in them: every text is composed here, and what was changed in one is taken in. */
@Injectable()
export class SidecarWords {
  /** what programs are saying just now, by where */
  private readonly goes = new Map<SaidIn, { group: string; first: number; last: number }>();

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly store: FrameStore,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly ids: Ids,
    private readonly parser: Parser,
    private readonly marks: MarksService,
    private readonly vocabulary: VocabularyService,
  ) {
    // What was taken back is over: what the program says from then on is a step of its own.
    happenings.on('marks', ({ operations }) => {
      for (const [window, { group }] of this.goes)
        if (operations.some(({ undoes }) => undoes === group)) this.goes.delete(window);
    });
  }

  /** What a frame's sidecars are to hold by now. */
  async holding(frame: Frame, text: FrameText | null, settings: StudioSettings): Promise<Holding> {
    const model = this.modelOf(frame, text, settings, await this.vocabulary.all());
    return { model, foreign: text?.foreign ?? null };
  }

  /**
   * The text of a frame's own sidecar, where `found` lies by now; where another program changed that since, its words are taken in
   * first. Returns what holds from then on. Throws `sidecar.malformed`.
   */
  async written(
    frame: Frame,
    text: FrameText | null,
    { model, foreign }: Holding,
    found: FoundText,
    path: string,
  ): Promise<Holding & { text: string }> {
    let wanted = model;
    if (found.text !== null && (found.changedOutside || !knowsAll(text?.sidecarBase ?? null))) {
      const theirs = await this.parser.readSidecar(found.text);
      if (!theirs.ok) throw new ArkivError('sidecar.malformed', { file: path, reason: theirs.reason });
      wanted = await this.merge(
        frame,
        text?.sidecarBase ?? null,
        model,
        theirs.model,
        await this.settings.all(),
        'sidecar',
      );
    }
    const now = await this.foreignNow(frame, found, foreign);
    return { model: wanted, foreign: now, text: await this.textOf(wanted, found.text, path, now) };
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
    const { model, foreign } = await this.heard(frameId, there, base, path);
    return {
      text: await this.textOf(model, there.text, path, foreign),
      ...{ model, foreign: foreign?.key ?? null },
    };
  }

  /**
   * Takes what another program changed in a copy of the frame's sidecar, since it said `base`, into the frame's marks, and writes nothing
   * there. Returns what the copy says, and the key of what other programs keep in it. Throws where it cannot be read.
   */
  async takenFromCopy(
    frameId: string,
    there: CopyText & { text: string },
    base: SidecarModel | null,
    path: string,
  ): Promise<{ said: SidecarModel | null; foreign: string | null }> {
    const { theirs } = await this.heard(frameId, { ...there, changedOutside: true }, base, path);
    return { said: theirs, foreign: there.foreign === undefined ? null : await this.foreignIn(there.text) };
  }

  /** What is to be said of a frame after what another program changed in a copy (`theirs`, null: nothing) was taken in. */
  private async heard(
    frameId: string,
    there: CopyText,
    base: SidecarModel | null,
    path: string,
  ): Promise<{ model: SidecarModel; theirs: SidecarModel | null; foreign: Foreign | null }> {
    const frame = await this.reading.manager.findOneByOrFail(Frame, { id: frameId });
    const settings = await this.settings.all();
    const text = await this.reading.manager.findOneBy(FrameText, { frameId });
    let model = this.modelOf(frame, text, settings, await this.vocabulary.all(), base);
    let theirs: SidecarModel | null = null;
    if (there.changedOutside && there.text !== null) {
      const read = await this.parser.readSidecar(there.text);
      if (!read.ok) throw new ArkivError('sidecar.malformed', { file: path, reason: read.reason });
      theirs = read.model;
      // Where nobody knows what it said before, nothing that it does not say was taken off there.
      model = await this.merge(frame, base, model, theirs, settings, 'copies');
    }
    // What is inside of a picture belongs to that picture alone.
    if (there.foreign === undefined) return { model, theirs, foreign: null };
    const kept = text?.foreign ?? null;
    const foreign = await this.foreignNow(frame, { ...there, foreign: there.foreign }, kept);
    if (foreign !== null && foreign.key !== kept?.key)
      await this.work.write((manager) => this.store.foreignFound(manager, frameId, foreign));
    return { model, theirs, foreign };
  }

  /**
   * Takes in what another program says of a frame in a sidecar of its own, `theirs`, and did not say there before (`base`; null: nobody
   * knows what that was, and nothing counts as taken off).
   */
  async takenIn(frameId: string, theirs: SidecarModel, base: SidecarModel | null): Promise<void> {
    const frame = await this.reading.manager.findOneByOrFail(Frame, { id: frameId });
    const settings = await this.settings.all();
    const text = await this.reading.manager.findOneBy(FrameText, { frameId });
    const ours = this.modelOf(frame, text, settings, await this.vocabulary.all());
    await this.merge(frame, base, ours, theirs, settings, 'sidecar');
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
        const now = this.modelOf(frame, texts.get(frame.id) ?? null, settings, vocabulary, said ?? null);
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
    before: SidecarModel | null,
    ours: SidecarModel,
    theirs: SidecarModel,
    settings: StudioSettings,
    window: SaidIn,
  ): Promise<SidecarModel> {
    const base = { ...EMPTY_SIDECAR, ...before };
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
    const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window, by: PROGRAM };
    const shared = { ...stamped(stamp), group: this.goOf(window) };
    const changes: Pick<MarkOperation, 'kind' | 'from' | 'to'>[] = [
      ...(Object.keys(now) as MarkField[])
        .filter((kind) => now[kind] !== frame[kind])
        .map((kind) => ({ kind, from: frame[kind], to: now[kind] })),
      // What the studio says where a frame says nothing is no word of the frame's.
      ...TEXT_FIELDS.filter((field) => merged[field] !== ours[field]).map((field) => {
        const to = saidIn(merged[field] ?? '');
        return { kind: textKind(field), from: textsIn(frame.texts)[field] ?? null, to };
      }),
      ...finishChanges(frame.finish, merged.finish ?? ''),
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

  /** The group of what programs say in one place, in one go. */
  private goOf(window: SaidIn): string {
    const now = this.clock.now();
    const known = this.goes.get(window);
    const isSame = known && now - known.last < SAME_GO && now - known.first < LONGEST_GO;
    const its = isSame ? known : { group: this.ids.newId(), first: now, last: now };
    its.last = now;
    this.goes.set(window, its);
    return its.group;
  }

  /** `copy`: what a copy of it said last, which keeps a label there that the studio has no colour for. */
  private modelOf(
    frame: Frame,
    text: FrameText | null,
    settings: StudioSettings,
    vocabulary: Vocabulary,
    copy: SidecarModel | null = null,
  ): SidecarModel {
    const keywords = keywordsIn(frame.keywords);
    const foreign = foreignLabel(text?.sidecarBase ?? null, settings) ?? foreignLabel(copy, settings);
    return {
      frameId: frame.id,
      derivedFrom: frame.derivedFrom,
      verdict: frame.verdict,
      stars: frame.stars,
      label: frame.label ? settings.labels[frame.label] : foreign,
      note: frame.note,
      stage: frame.stage,
      take: frame.take,
      finish: frame.finish || null,
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

/** Whether a sidecar was last written with all that is known by now: of the rest it may say something that nobody has read. */
const knowsAll = (base: SidecarModel | null): boolean =>
  base === null || Object.keys(EMPTY_SIDECAR).every((field) => field in base);

/** A label that another program wrote and the studio has no colour for stays as it is. */
function foreignLabel(base: SidecarModel | null, settings: StudioSettings): string | null {
  const text = base?.label ?? null;
  return text !== null && labelFor(text, settings) === null ? text : null;
}

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
