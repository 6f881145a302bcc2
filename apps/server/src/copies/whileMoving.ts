import { ArkivError } from '@arkiv/core';
import type { Reading } from '../db/unitOfWork';
import type { OpenJobs } from '../jobs/openJobs.service';

/** Which copies are meant: those of one shoot, those on one volume, or both; of the whole archive without either. */
export interface CopiesAsked {
  shootId?: string;
  volumeId?: string;
  /** with a shoot: id of the drive that gets what it does not hold yet, whatever copies there are elsewhere */
  to?: string;
  /** of these the studio’s keepers alone */
  keepers?: boolean;
  /** with a drive that gets what it does not hold: previews of frames whose pictures it does not get either */
  previews?: boolean;
}

/** Files that are being moved have two names: they are copied and read again when they have one. Throws `move.busy`. */
export async function refuseWhileMoving(
  reading: Reading,
  openJobs: OpenJobs,
  { shootId = null, volumeId = null }: { shootId?: string | null; volumeId?: string | null },
): Promise<void> {
  const moving = await openJobs.shootsThatMove();
  if (moving.length === 0) return;
  const [busy]: { title: string }[] = await reading.source.query(
    `SELECT s.title FROM json_each(?) e JOIN shoot s ON s.id = e.value
     WHERE (? IS NULL OR s.id = ?) AND (? IS NULL OR EXISTS (
       SELECT 1 FROM asset a JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ? WHERE a."shootId" = s.id))
     LIMIT 1`,
    [JSON.stringify(moving), shootId, shootId, volumeId, volumeId],
  );
  if (busy) throw new ArkivError('move.busy', { shoot: busy.title });
}
