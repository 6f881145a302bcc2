import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import {
  ArkivError,
  bringTerms,
  termsAlong,
  changeTerms,
  fromIndented,
  fromStatements,
  toIndented,
  toTurtle,
  Vocabulary,
  type BroughtTerm,
  type Term,
  type TermChange,
} from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { insertRows } from '../db/insertRows';
import { Happenings } from '../events/domainEvents';
import { ArchiveTexts } from '../frames/archiveTexts.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { statementsIn } from './rdf';
import { TermRow, VocabularyChange, type VocabularyDeed } from './term.entity';
import { TermFrames, type Following } from './termFrames.service';

/** Terms written in one transaction: some milliseconds. */
const ROWS = 500;
/** The vocabulary as a text on each drive. */
const LIST = 'vocabulary.txt';
/** Words in no term that are offered for filing: the most frequent ones. */
const MOST_UNFILED = 500;

export type VocabularyFormat = 'indented' | 'turtle' | 'rdfxml';

export interface UnfiledWord {
  word: string;
  frames: number;
}

/** The studio's keywords as a tree, and the frames that follow when it changes. */
@Injectable()
export class VocabularyService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('vocabulary');
  private kept: Promise<Vocabulary> | null = null;
  /** frames follow one change after the other */
  private following: Promise<void> = Promise.resolve();
  private changing: Promise<unknown> = Promise.resolve();
  private stopping = false;

  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly work: UnitOfWork,
    private readonly frames: TermFrames,
    private readonly texts: ArchiveTexts,
    private readonly ids: Ids,
    private readonly clock: Clock,
    private readonly happenings: Happenings,
  ) {
    texts.list(LIST, async () => toIndented(await this.all()) || null);
    happenings.on('rebuilt', () => (this.kept = null));
  }

  /** Frames that a stop kept from following do so now. */
  onApplicationBootstrap(): void {
    this.follow();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    await this.following;
  }

  /** All terms. */
  all(): Promise<Vocabulary> {
    this.kept ??= this.reading.manager.find(TermRow).then(
      (rows) => new Vocabulary(rows),
      (error: unknown) => {
        this.kept = null;
        throw error;
      },
    );
    return this.kept;
  }

  /** Terms as columns, as UTF-8 JSON: fifty thousand of them are no text for the server's own thread. */
  columns(gzip: boolean): Promise<Buffer> {
    return this.long.columns(
      `SELECT id, word, parent, synonyms, kind, number, deliver FROM term ORDER BY rowid`,
      [],
      {},
      { gzip },
    );
  }

  /** What was done last and can be taken back; null: nothing. */
  async last(): Promise<VocabularyChange | null> {
    const [last] = await this.reading.manager.find(VocabularyChange, {
      where: { state: In(['open', 'done', 'undoing']) },
      order: { id: 'DESC' },
      take: 1,
    });
    return last ?? null;
  }

  /** What a change would do. Throws why it cannot be. */
  async preview(change: TermChange): Promise<Following> {
    const before = await this.all();
    return this.frames.wouldFollow({ change, before, after: new Vocabulary(this.changed(before, change)) });
  }

  /** Changes the vocabulary; frames follow. Resolves when the tree is changed and kept. */
  change(change: TermChange): Promise<VocabularyChange> {
    return this.inTurn(async () => {
      const before = await this.all();
      const terms = this.changed(before, change);
      return this.keep(change, before.terms, terms, wordsOf(before, change));
    });
  }

  /** Terms out of a text: what is there already learns what it did not know. `doIt` false: only says what would come. */
  bring(text: string, format: VocabularyFormat, doIt: boolean): Promise<{ added: number; changed: number }> {
    return doIt ? this.inTurn(() => this.brought(text, format, true)) : this.brought(text, format, false);
  }

  private async brought(text: string, format: VocabularyFormat, doIt: boolean) {
    const before = await this.all();
    const brought = await this.read(text, format);
    const { terms, added, changed } = bringTerms(before.terms, brought, () => this.ids.newId());
    if (doIt && added + changed > 0)
      await this.keep({ do: 'bring', added, changed }, before.terms, terms, `${added} terms brought in`);
    return { added, changed };
  }

  /** What another archive's vocabulary says of keywords that came with its pictures and are not known here. `from`: its name. */
  bringAlong(theirs: Vocabulary, keywords: readonly string[], from: string): Promise<{ added: number }> {
    return this.inTurn(async () => {
      const before = await this.all();
      const brought = termsAlong(theirs, before, keywords);
      const { terms, added } = bringTerms(before.terms, brought, () => this.ids.newId());
      if (added > 0)
        await this.keep(
          { do: 'bring', added, changed: 0 },
          before.terms,
          terms,
          `${added} terms came along from “${from}”`,
        );
      return { added };
    });
  }

  async text(format: 'indented' | 'turtle'): Promise<string> {
    const vocabulary = await this.all();
    return format === 'turtle' ? toTurtle(vocabulary) : toIndented(vocabulary);
  }

  /** Takes the last change back, on frames too; what somebody changed on one since stays. */
  undo(): Promise<VocabularyChange> {
    return this.inTurn(() => this.undoLast());
  }

  private async undoLast(): Promise<VocabularyChange> {
    const last = await this.last();
    if (!last) throw new ArkivError('vocabulary.refused', { reason: 'There is nothing to take back.' });
    const { before, after } = last;
    await this.write(after, before, (manager) =>
      manager.update(VocabularyChange, { id: last.id }, { state: 'undoing' }),
    );
    this.follow();
    return { ...last, state: 'undoing' };
  }

  /** Keywords of frames that are no term, the most frequent first. */
  async unfiled(): Promise<UnfiledWord[]> {
    const vocabulary = await this.all();
    const rows = await this.long.rows<{ word: string; frames: number }>(
      // A line of a frame's keywords is a word: taken apart where they lie, each list of them once.
      `WITH RECURSIVE list AS (
         SELECT keywords, COUNT(*) AS frames FROM frame_here WHERE keywords <> '' GROUP BY keywords
       ), one(word, rest, frames) AS (
         SELECT NULL, keywords || char(10), frames FROM list
         UNION ALL SELECT substr(rest, 1, instr(rest, char(10)) - 1), substr(rest, instr(rest, char(10)) + 1), frames
         FROM one WHERE rest <> '')
       SELECT word, SUM(frames) AS frames FROM one WHERE word IS NOT NULL GROUP BY word ORDER BY 2 DESC, 1`,
      [],
    );
    return rows.filter(({ word }) => vocabulary.named(word).length === 0).slice(0, MOST_UNFILED);
  }

  /** Waits until frames have followed all changes. */
  async settled(): Promise<void> {
    await this.following;
  }

  private changed(before: Vocabulary, change: TermChange): Term[] {
    const result = changeTerms(before.terms, change, () => this.ids.newId());
    if (!result.ok) throw new ArkivError('vocabulary.refused', { reason: result.problem });
    return result.terms;
  }

  private async read(text: string, format: VocabularyFormat): Promise<BroughtTerm[]> {
    const terms = await this.termsIn(text, format);
    if (terms.length === 0) throw new ArkivError('vocabulary.text', { reason: 'it holds no terms' });
    return terms;
  }

  private async termsIn(text: string, format: VocabularyFormat): Promise<BroughtTerm[]> {
    if (format === 'indented') {
      const read = fromIndented(text);
      if (read.ok) return read.terms;
      throw new ArkivError('vocabulary.text', { reason: `line ${read.line}: ${read.problem}` });
    }
    try {
      return fromStatements(await statementsIn(text, format));
    } catch (error) {
      throw new ArkivError('vocabulary.text', { reason: (error as Error).message });
    }
  }

  /**
   * One change after the other, each on what the one before has left: its frames must have followed, or the next would not
   * find them.
   */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.changing.then(() => this.following).then(work);
    this.changing = turn.catch(() => undefined);
    return turn;
  }

  private async keep(
    deed: VocabularyDeed,
    before: readonly Term[],
    terms: readonly Term[],
    words: string,
  ): Promise<VocabularyChange> {
    const was = new Map(before.map((term) => [term.id, term]));
    const is = new Map(terms.map((term) => [term.id, term]));
    const row: VocabularyChange = {
      ...{ id: this.ids.newId(), at: this.clock.now(), deed, words, state: 'open', frames: 0 },
      before: before.filter((term) => is.get(term.id) !== term),
      after: terms.filter((term) => was.get(term.id) !== term),
    };
    await this.write(row.before, row.after, (manager) => manager.insert(VocabularyChange, row));
    this.follow();
    return row;
  }

  /** Some terms in place of others, in one transaction: half a tree is none. */
  private async write(
    gone: readonly Term[],
    come: readonly Term[],
    beside: (manager: EntityManager) => Promise<unknown>,
  ): Promise<void> {
    await this.work.write(async (manager) => {
      // What a stop left half done is done again.
      const ids = [...gone, ...come].map(({ id }) => id);
      for (let at = 0; at < ids.length; at += ROWS)
        await manager.delete(TermRow, { id: In(ids.slice(at, at + ROWS)) });
      await insertRows(
        manager,
        TermRow,
        come.map(({ synonyms, ...term }) => ({ ...term, synonyms: [...synonyms] })),
      );
      await beside(manager);
      this.happenings.after(manager, 'vocabulary', {});
    });
    this.kept = null;
    this.texts.changed(LIST);
  }

  private follow(): void {
    this.following = this.following
      .then(() => this.goOn())
      .catch((error: unknown) => this.log.error((error as Error).stack));
  }

  private async goOn(): Promise<void> {
    const open = await this.reading.manager.find(VocabularyChange, {
      where: { state: In(['open', 'undoing']) },
      order: { id: 'ASC' },
    });
    for (const change of open) {
      if (this.stopping) return;
      if (change.state === 'open') await this.followChange(change);
      else await this.takeBack(change);
    }
  }

  private async followChange({ id, deed, ...row }: VocabularyChange): Promise<void> {
    if (deed.do === 'bring') return this.end(id, { state: 'done' });
    const after = await this.all();
    const changed = new Set(row.after.map((term) => term.id));
    const before = new Vocabulary([...after.terms.filter((term) => !changed.has(term.id)), ...row.before]);
    const frames = await this.frames.follow({ change: deed, before, after }, id, () => this.stopping);
    if (frames !== null) await this.end(id, { state: 'done', frames: row.frames + frames });
  }

  private async takeBack({ id }: VocabularyChange): Promise<void> {
    if (await this.frames.takeBack(id, () => this.stopping)) await this.end(id, { state: 'undone' });
  }

  private async end(id: string, change: Partial<VocabularyChange>): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.update(VocabularyChange, { id }, change);
      this.happenings.after(manager, 'vocabulary', {});
    });
  }
}

/** What a change is called afterwards. */
function wordsOf(before: Vocabulary, change: TermChange): string {
  const its = 'id' in change ? (before.get(change.id)?.word ?? '') : '';
  switch (change.do) {
    case 'add':
      return `“${change.word}” added`;
    case 'set':
      return `“${its}” changed`;
    case 'roster':
      return `list of “${its}” changed`;
    case 'rename':
      return `“${its}” renamed “${change.word}”`;
    case 'move':
      return change.parent === null
        ? `“${its}” moved to the top`
        : `“${its}” moved under “${before.get(change.parent)?.word ?? ''}”`;
    case 'join':
      return `“${its}” joined with “${before.get(change.into)?.word ?? ''}”`;
    case 'split':
      return `“${its}” split into ${change.words.map((word) => `“${word}”`).join(', ')}`;
    case 'remove':
      return `“${its}” removed`;
  }
}
