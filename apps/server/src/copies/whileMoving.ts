import { ArkivError } from '@arkiv/core';
import type { Reading } from '../db/unitOfWork';
import type { OpenJobs } from '../jobs/openJobs.service';

/** Files that are being moved have two names: they are copied and read again when they have one. Throws `move.busy`. */
export async function refuseWhileMoving(
  reading: Reading,
  openJobs: OpenJobs,
  assetIds: readonly string[],
): Promise<void> {
  const shoots: { id: string; title: string }[] = await reading.source.query(
    `SELECT DISTINCT s.id, s.title FROM json_each(?) e JOIN asset a ON a.id = e.value JOIN shoot s ON s.id = a."shootId"`,
    [JSON.stringify(assetIds)],
  );
  const moving = await openJobs.onShoots(
    shoots.map(({ id }) => id),
    { kinds: ['move'] },
  );
  if (!moving) return;
  const { from } = moving.params as { from?: string };
  const shoot = shoots.find(({ id }) => id === moving.shootId || id === from);
  throw new ArkivError('move.busy', { shoot: shoot?.title ?? moving.title });
}
