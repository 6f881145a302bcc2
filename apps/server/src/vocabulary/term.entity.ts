import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { Term, TermChange, TermKind } from '@arkiv/core';

/** A keyword of the studio's vocabulary, at its place in the tree. */
@Entity('term')
export class TermRow implements Term {
  @PrimaryColumn('text') id: string;
  @Column('text') word: string;
  @Column('text', { nullable: true }) parent: string | null;
  @Column('simple-json') synonyms: string[];
  @Column('text') kind: TermKind;
  @Column('text', { nullable: true }) number: string | null;
  @Column('boolean') deliver: boolean;
}

/** What was brought in, as a change of the vocabulary. */
export type VocabularyDeed = TermChange | { do: 'bring'; added: number; changed: number };

/**
 * A change of the vocabulary, with what takes it back. Frames follow after it, and it is `open` until all have; what a stop cut
 * off goes on at the next start. The id is the group of what changed on frames, and that of what took it back is kept too.
 */
@Entity('vocabulary_change')
export class VocabularyChange {
  @PrimaryColumn('text') id: string;
  @Column('integer') at: number;
  @Column('simple-json') deed: VocabularyDeed;
  /** what it is called: “heron” renamed “grey heron” */
  @Column('text') words: string;
  /** the terms that it changed, as they were and as they are; who is in one list alone came or went */
  @Column('simple-json') before: Term[];
  @Column('simple-json') after: Term[];
  /** `open`: frames still follow; `undoing`: they still go back */
  @Column('text') state: 'open' | 'done' | 'undoing' | 'undone';
  /** frames that were changed */
  @Column('integer') frames: number;
}

/** The numbered lists by which the persons of a shoot are named. */
@Entity('shoot_roster')
export class ShootRosters {
  @PrimaryColumn('text') shootId: string;
  /** ids of the terms that the lists stand under, in the order in which they were chosen */
  @Column('simple-json') terms: string[];
}
