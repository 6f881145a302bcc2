import { collisionKey } from './legalName';
import { freeName } from './pattern';

/**
 * Base names for frames that come from several places into one folder, by id. Names stay where they can; one that is
 * there already gets a number. Goes by id, not by what is chosen: the same frame gets the same name each time, whatever
 * else goes with it.
 */
export function namesTogether(
  frames: readonly { id: string; folder: string; name: string }[],
): Map<string, string> {
  const taken = new Set<string>();
  const names = new Map<string, string>();
  for (const { id, folder, name } of [...frames].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const key = (base: string) => collisionKey(`${folder}/${base}`);
    const free = freeName(name, (base) => taken.has(key(base)));
    taken.add(key(free));
    names.set(id, free);
  }
  return names;
}
