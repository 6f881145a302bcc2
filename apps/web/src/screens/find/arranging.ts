import { albumKind, albumPlace, placesBetween } from '@arkiv/core';
import { albumWords } from '../../data/albums';
import { many } from '../../data/format';
import { targetsOf, type FindSeen, type WithinAlbum } from './findSeen';

/** The album whose frames can be taken out or arranged by hand where one stands; a text says why there is none. */
function byHand({ within }: FindSeen): WithinAlbum | string {
  if (!within) return 'Frames are arranged in their album, and taken out of it there';
  if (within.byRule) return `“${within.name}” is filled by its rule: change that instead`;
  return within;
}

/** Takes what is marked out of the album that is looked into. No file is touched. */
export async function outOfAlbum(seen: FindSeen): Promise<void> {
  const within = byHand(seen);
  if (typeof within === 'string') return seen.say(within);
  const album = (within.arranged && within.albumAt(seen.at)) || within.id;
  const frames = (await seen.loaded(targetsOf(seen))).filter(
    ({ albums }) => albumPlace(albums, album) !== null,
  );
  if (frames.length === 0) return seen.say('It stands in an album below this one: open that');
  seen.store.markEach(frames.map(({ id }) => ({ id, field: albumKind(album), to: null })));
  seen.select(new Set());
  seen.say(albumWords(frames.length, false, within.name));
}

/** Moves what is marked before the frame at a place, or behind the last of its album. */
export async function arrangeBefore(at: number, behind: boolean, seen: FindSeen): Promise<void> {
  const within = byHand(seen);
  if (typeof within === 'string') return seen.say(within);
  if (!within.arranged) return seen.say('Choose “as arranged” above: in another order nothing is arranged');
  const album = within.albumAt(at);
  if (album === null) return;
  const moved = new Set(targetsOf(seen));
  const placeAt = async (i: number): Promise<string | null> => {
    if (within.albumAt(i) !== album) return null;
    const frame = await within.frameAt(i);
    return frame ? albumPlace(frame.albums, album) : null;
  };
  /** The next place in a direction of a frame that stays. */
  const stays = async (from: number, by: 1 | -1): Promise<string | null> => {
    for (let i = from; within.albumAt(i) === album; i += by) {
      const frame = await within.frameAt(i);
      if (frame && !moved.has(frame.id)) return placeAt(i);
    }
    return null;
  };
  const after = await stays(behind ? at + 1 : at, 1);
  const before = await stays(behind ? at : at - 1, -1);
  const all = await seen.loaded([...moved]);
  const frames = all.filter(({ albums }) => albumPlace(albums, album) !== null);
  if (frames.length === 0) return seen.say('It stands in another album: open that to arrange it');
  // Those that are moved together keep the order that they have.
  const place = (albums: string): string => albumPlace(albums, album)!;
  frames.sort((a, b) => (place(a.albums) < place(b.albums) ? -1 : 1));
  const places = placesBetween(before, after, frames.length);
  seen.store.markEach(frames.map(({ id }, i) => ({ id, field: albumKind(album), to: places[i]! })));
  seen.say(frames.length > 1 ? `${many(frames.length, 'frame')} moved` : '');
}

/** Moves what is marked one place on in its album, or back. */
export async function arrangeBy(by: 1 | -1, seen: FindSeen): Promise<void> {
  const within = byHand(seen);
  if (typeof within === 'string') return seen.say(within);
  const moved = new Set(targetsOf(seen));
  const album = within.albumAt(seen.at);
  // Over the next one that is not moved with it.
  for (let i = seen.at + by; album !== null && within.albumAt(i) === album; i += by) {
    const frame = await within.frameAt(i);
    if (frame && !moved.has(frame.id)) return arrangeBefore(i, by === 1, seen);
  }
  seen.say(by === 1 ? 'It is the last already' : 'It is the first already');
}
