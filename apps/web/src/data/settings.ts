import { mutate } from 'swr';
import { get, patch, type Api } from './http';

type Settings = Api['SettingsDto'];

let last: Promise<unknown> = Promise.resolve();

/**
 * Changes settings on top of what they are at that moment, one change after another: two fields that are left in quick
 * succession may lie in one setting, and the second must not undo the first.
 */
export function changeSettings(change: (now: Settings) => Api['ChangeSettingsDto']): Promise<Settings> {
  const done = last.then(async () => {
    const after = await patch('/settings', change(await get('/settings')));
    await mutate('/settings', after, false);
    return after;
  });
  last = done.catch(() => undefined);
  return done;
}
