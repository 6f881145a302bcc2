import { Column, Entity, PrimaryColumn } from 'typeorm';
import type { ArchiveIdentity } from '../settings/settings.service';

export type VolumeRole = 'working' | 'backup' | 'edit';

@Entity('volume')
export class Volume {
  /** the id in the file at the volume's root */
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  /** where it was last seen on this machine; never leaves the server */
  @Column('text') root: string;
  @Column('text') role: VolumeRole;
  /** name of its device: two volumes of one name count as one copy; `?` where nobody knows */
  @Column('text') device: string;
  /** physical disks it was last seen on; null: unknown */
  @Column('simple-json', { nullable: true }) disks: string[] | null;
  /** the owner's word on which device it is, which stands for what was found out; null: none */
  @Column('text', { nullable: true }) stated: string | null;
  /** its folder below the mount that holds it, so that it is found under another mount point; null: not known yet */
  @Column('text', { nullable: true }) below: string | null;
  @Column('integer') addedAt: number;
  /**
   * the archive that had it until this one made it its own, while what that left on it is neither taken in nor let lie: nothing of this
   * archive's own texts is written onto it until then; null: none
   */
  @Column('simple-json', { nullable: true }) heldBy: ArchiveIdentity | null;
  /** copies on it; this and what follows is kept by the frame store */
  @Column({ type: 'integer', default: 0, update: false }) files: number;
  /** of these copies */
  @Column({ type: 'integer', default: 0, update: false }) bytes: number;
  /** of these, files that no other device holds */
  @Column({ type: 'integer', default: 0, update: false }) onlyHere: number;
  /** copies that were found missing, changed or unreadable */
  @Column({ type: 'integer', default: 0, update: false }) damaged: number;
  /** device and role by which its copies were counted last */
  @Column({ type: 'text', default: '', update: false }) countedAs: string;
}
