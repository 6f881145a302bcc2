import type { LoadedFrame } from './frames';
import { many } from './format';
import { get, put } from './http';

/** Frames that stand for a shoot: what its strip has room for. */
const MOST = 6;

/**
 * Has frames stand for their shoots; where all of them do already, no longer. Resolves to what is to be said. `shootId`: their
 * shoot, where they do not name it.
 */
export async function standForShoot(frames: readonly LoadedFrame[], shootId?: string): Promise<string> {
  const byShoot = new Map<string, string[]>();
  for (const frame of frames) {
    const shoot = frame.shootId ?? shootId;
    if (shoot) byShoot.set(shoot, [...(byShoot.get(shoot) ?? []), frame.id]);
  }
  const said: string[] = [];
  for (const [shoot, ids] of byShoot)
    said.push(await choose(shoot, ids).catch((error: Error) => error.message));
  return said.join(' · ');
}

/** Has a frame stand for the folder that it lies in, where it does not yet. Resolves to what is to be said. */
export async function standForFolder(
  frame: LoadedFrame,
  others: readonly LoadedFrame[],
  shootId: string,
): Promise<string> {
  const { folderLeads } = await get(`/shoots/${shootId}`);
  const name = frame.lies?.split('/').at(-1) ?? '';
  const beside = new Set(others.flatMap((other) => (other.lies === frame.lies ? other.id : [])));
  const out = folderLeads.includes(frame.id);
  const rest = folderLeads.filter((id) => id !== frame.id && !beside.has(id));
  await put(`/shoots/${shootId}/folder-leads`, { frameIds: out ? rest : [...rest, frame.id] });
  return out ? `Arkiv chooses again what stands for “${name}”` : `It stands for “${name}”`;
}

async function choose(shoot: string, ids: readonly string[]): Promise<string> {
  const { title, chosenLeads } = await get(`/shoots/${shoot}`);
  const out = ids.every((id) => chosenLeads.includes(id));
  const frameIds = out
    ? chosenLeads.filter((id) => !ids.includes(id))
    : [...new Set([...chosenLeads, ...ids])];
  if (frameIds.length > MOST)
    return `${MOST} frames stand for “${title}” at most: the same key on one of them takes it out`;
  await put(`/shoots/${shoot}/leads`, { frameIds });
  const now =
    frameIds.length === 0
      ? `Arkiv chooses again which frames stand for “${title}”`
      : `${many(frameIds.length, 'frame stands', 'frames stand')} for “${title}”`;
  return out && frameIds.length > 0 ? `No longer; ${now}` : now;
}
