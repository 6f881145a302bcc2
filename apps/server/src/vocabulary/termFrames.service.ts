import { Injectable } from '@nestjs/common';
import {
  changedWord,
  foldText,
  followTerm,
  invertAll,
  keywordsIn,
  markOf,
  marksIn,
  STUDIO,
  type MarkOperation,
  type TermChange,
  type Vocabulary,
} from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Journal } from '../journal/journal';
import { MarksService } from '../marks/marks.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';

/** In the journal, what followed a change of the vocabulary. */
const WINDOW = 'vocabulary';
/** Frames that are looked through, and that are changed, in one go. */
const PAGE = 2000;

/** What a change would do to frames. */
export interface Following {
  frames: number;
  shoots: number;
}

interface WordedFrame {
  key: number;
  id: string;
  shootId: string;
  keywords: string;
}

/** A change of the vocabulary, and the tree before and after it. */
export interface FollowedChange {
  change: TermChange;
  before: Vocabulary;
  after: Vocabulary;
}

/** The frames that follow the vocabulary: which would, which do, and back again. */
@Injectable()
export class TermFrames {
  constructor(
    private readonly long: LongReading,
    private readonly journal: Journal,
    private readonly marks: MarksService,
    private readonly ids: Ids,
    private readonly clock: Clock,
  ) {}

  async wouldFollow({ change, before, after }: FollowedChange): Promise<Following> {
    let frames = 0;
    const shoots = new Set<string>();
    for await (const page of this.worded(changedWord(before, change)))
      for (const frame of page)
        if (followTerm(before, after, change, keywordsIn(frame.keywords)).length > 0) {
          frames += 1;
          shoots.add(frame.shootId);
        }
    return { frames, shoots: shoots.size };
  }

  /**
   * Lets frames follow, as one group. What frames have already is asked of them: it may be gone through again after a stop.
   * Returns how many were changed; null: it was stopped before all were.
   */
  async follow(
    { change, before, after }: FollowedChange,
    group: string,
    stopping: () => boolean,
  ): Promise<number | null> {
    let frames = 0;
    for await (const page of this.worded(changedWord(before, change))) {
      if (stopping()) return null;
      const stamp = () => ({
        ...{ id: this.ids.newId(), at: this.clock.now(), by: STUDIO, group, pass: null },
        ...{ window: WINDOW, undoes: null },
      });
      const operations = page.flatMap((frame) =>
        followTerm(before, after, change, keywordsIn(frame.keywords)).map((its): MarkOperation => ({
          ...its,
          ...stamp(),
          subject: frame.id,
        })),
      );
      await this.marks.apply(operations);
      frames += new Set(operations.map(({ subject }) => subject)).size;
    }
    return frames;
  }

  /** Takes back on frames what one group did, but where somebody changed it since; false: it was stopped before the end. */
  async takeBack(group: string, stopping: () => boolean): Promise<boolean> {
    const made = (await this.journal.ofGroup(group, WINDOW)) as MarkOperation[];
    for (let at = 0; at < made.length; at += PAGE) {
      if (stopping()) return false;
      const part = made.slice(at, at + PAGE);
      const frames = await this.marks.now([...new Set(part.map(({ subject }) => subject))]);
      const now = new Map(frames.map((frame) => [frame.id, marksIn(frame)]));
      const current = (id: string, kind: MarkOperation['kind']) => {
        const marks = now.get(id);
        return marks && markOf(marks, kind);
      };
      const stamp = { newId: () => this.ids.newId(), at: this.clock.now(), window: WINDOW, by: STUDIO };
      await this.marks.apply(invertAll(part, current, stamp).operations);
    }
    return true;
  }

  /** Frames that have a word, a page at a time; those in the bin too: they may come back. */
  private async *worded(word: string | null): AsyncGenerator<WordedFrame[]> {
    if (word === null) return;
    const wanted = `\n${foldText(word)}\n`;
    for (let after = -1; ;) {
      const rows = await this.long.rows<WordedFrame>(
        `SELECT "key", id, "shootId", keywords FROM frame WHERE "key" > ? AND state IN ('here', 'binned')
           AND keywords <> '' AND instr(char(10) || arkiv_fold(keywords) || char(10), ?) > 0 ORDER BY "key" LIMIT ?`,
        [after, wanted, PAGE],
      );
      if (rows.length > 0) yield rows;
      if (rows.length < PAGE) return;
      after = rows.at(-1)!.key;
    }
  }
}
