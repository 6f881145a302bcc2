import { Column, Entity, PrimaryColumn } from 'typeorm';
import { ADOPTED_TEXTS, ArkivError, type FolderPlan, type SequenceScope } from '@arkiv/core';

@Entity('shoot')
export class Shoot {
  @PrimaryColumn('text') id: string;
  @Column('text') title: string;
  /** YYYY-MM-DD */
  @Column('text') date: string;
  @Column('text') client: string;
  @Column('text') place: string;
  /** shoot folders below each volume; the first is its home */
  @Column('simple-json') folders: string[];
  @Column('simple-json') plan: FolderPlan;
  @Column('text') pattern: string;
  @Column('integer') nextSeq: number;
  /** whether its numbers run through it or begin anew each day */
  @Column('text') seqBy: SequenceScope;
  @Column('integer') zoneMinutes: number;
  @Column('integer') createdAt: number;
  /** counts every change that a loaded shoot must learn of */
  @Column('integer') revision: number;
  /** frames that are here; this and what follows is kept by the frame store */
  @Column({ type: 'integer', default: 0, update: false }) frames: number;
  /** of these, by the studio's rules */
  @Column({ type: 'integer', default: 0, update: false }) keepers: number;
  @Column({ type: 'integer', default: 0, update: false }) rejects: number;
  @Column({ type: 'integer', default: 0, update: false }) files: number;
  /** files with fewer verified copies on distinct devices than the studio asks for */
  @Column({ type: 'integer', default: 0, update: false }) missingCopies: number;
  /** the rules that these were counted by */
  @Column({ type: 'text', default: '', update: false }) countedBy: string;
  /** keys of pictures of up to six frames that stand for it, and the revision that they were chosen at; null: not yet */
  @Column('simple-json', { nullable: true }) leads: string[] | null;
  @Column('integer', { default: -1 }) leadsAt: number;
  /** ids of the frames that were chosen to stand for it, up to six; null: none was */
  @Column('simple-json', { nullable: true }) chosenLeads: string[] | null;
  /** frames that were chosen to stand for the folders that they lie in; null: none */
  @Column('simple-json', { nullable: true }) folderLeads: string[] | null;
  /** when anything in it changed last */
  @Column('integer', { default: 0 }) touchedAt: number;
  /** the shoot that all its frames went into; such a shoot is not listed any more */
  @Column('text', { nullable: true }) mergedInto: string | null;
  /** the folder in which is written what is said of it, where its pictures lie in a folder that is not the archive's own; null: in its own */
  @Column('text', { nullable: true }) keptIn: string | null;
  /**
   * for copies that go to editing, edits and sets of a shoot that is kept elsewhere: a folder of the archive's own, as nothing is put into
   * an adopted one; null: none was needed yet
   */
  @Column('text', { nullable: true }) workFolder: string | null;
  /** whether sidecars are written beside its pictures; what others write there is read all the same */
  @Column('boolean', { default: true }) sidecars: boolean;
}

/**
 * Shoots (s) that somebody works on, in SQL: of adopted ones, which may be all of twenty years, those alone in which something was decided
 * here.
 */
export const IN_HAND = `(s."keptIn" IS NULL OR EXISTS (
  SELECT 1 FROM operation o WHERE o."shootId" = s.id AND o."window" <> 'sidecar'))`;

/** The folder, below each drive, of what is said of a shoot where that does not lie beside its pictures: they are in an adopted folder, or in another shoot's. */
export const textsApart = (shootId: string): string => `${ADOPTED_TEXTS}/${shootId}`;

/** Folders that hold what is said of a shoot; the first is the one of its records. */
export const textFolders = ({ folders, keptIn }: Pick<Shoot, 'folders' | 'keptIn'>): string[] =>
  keptIn === null ? folders : [keptIn];

/** Throws `move.adopted` for a shoot into which nothing can be put: its folder is not the archive's. */
export function mayGetFrames({ title, keptIn }: Pick<Shoot, 'title' | 'keptIn'>): void {
  if (keptIn !== null) throw new ArkivError('move.adopted', { shoot: title });
}

/** Folders in which copies for editing, edits and sets of a shoot lie. */
export const workFolders = ({
  folders,
  keptIn,
  workFolder,
}: Pick<Shoot, 'folders' | 'keptIn' | 'workFolder'>): string[] => [
  ...new Set([...(keptIn === null ? folders : []), ...(workFolder === null ? [] : [workFolder])]),
];
