import type { EntityManager } from 'typeorm';

export interface VolumeChange {
  files?: number;
  bytes?: number;
  /** files that no other device has */
  onlyHere?: number;
  damaged?: number;
}

/** Keeps the numbers of a drive in step with the rows that they count, in the same transaction. */
export async function changeVolume(
  manager: EntityManager,
  volumeId: string,
  { files = 0, bytes = 0, onlyHere = 0, damaged = 0 }: VolumeChange,
): Promise<void> {
  await manager.query(
    `UPDATE volume SET files = files + ?, bytes = bytes + ?, "onlyHere" = "onlyHere" + ?, damaged = damaged + ? WHERE id = ?`,
    [files, bytes, onlyHere, damaged, volumeId],
  );
}
