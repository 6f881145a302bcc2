import type { EntityManager } from 'typeorm';
import { Shoot } from './shoot.entity';

/** A shoot, or the one that all its frames went into by now; null: there is none of this id. */
export async function livingShoot(manager: EntityManager, id: string): Promise<Shoot | null> {
  for (let now = id; ;) {
    const shoot = await manager.findOneBy(Shoot, { id: now });
    if (!shoot || shoot.mergedInto === null) return shoot;
    now = shoot.mergedInto;
  }
}
