import { keyParts } from '@arkiv/core';
import { mutate } from 'swr';
import { get, type Api } from '../../data/http';
import type { LoadedFrame } from '../../data/frames';
import type { Seen } from './seen';

/** One picture of a frame: an edit that came back, or what its camera took. */
export interface Version {
  /** what it is, in words */
  words: string;
  picture: string | null;
  /** pixels; null: not known */
  width: number | null;
  height: number | null;
  /** Exif orientation 1…8 */
  orientation: number;
}

/**
 * A frame's pictures: the one that shows it first, then its other edits, the newest first, and what the camera took at the end. Of a
 * stack or a panorama, which shows none of its frames, the camera's picture is the first.
 */
export function versionsOf(frame: Pick<LoadedFrame, 'picture'>, of: Api['EditsOfFrameDto']): Version[] {
  const edits = of.edits.map(({ name, originals, picture, width, height }, i): Version => ({
    ...{ picture, width, height, orientation: 1 },
    words: `edit ${of.edits.length - i} of ${of.edits.length}: ${name}${originals > 1 ? `, from ${originals} frames` : ''}`,
  }));
  const all = [...edits, { ...of.taken, words: 'as the camera took it' }].filter(
    ({ picture }) => picture !== null,
  );
  const shown = all.findIndex(({ picture }) => picture === frame.picture);
  return shown <= 0 ? all : [all[shown]!, ...all.filter((_, i) => i !== shown)];
}

/** A frame that is finished here: as it is shown, and as the camera took it. None where it is not, or an edit shows it. */
export function finishedVersions(
  frame: Pick<LoadedFrame, 'picture' | 'finished' | 'edited' | 'width' | 'height' | 'orientation'>,
): Version[] {
  const { picture, finished, edited, width, height, orientation } = frame;
  if (picture === null || finished === null || edited !== null) return [];
  const size = { width, height, orientation };
  return [
    { words: 'finished here', picture, ...size },
    { words: 'as the camera took it', picture: keyParts(picture).picture, ...size },
  ];
}

/** A frame as one of its versions looks. */
export const asVersion = (frame: LoadedFrame, version: Version | undefined): LoadedFrame => {
  if (!version) return frame;
  const { picture, width, height, orientation } = version;
  return { ...frame, picture, orientation, width: width ?? frame.width, height: height ?? frame.height };
};

/** Where a frame's edits stand on the server. */
export const editsAddress = (id: string) => `/returns/of/${id}` as const;

/** A frame's edits, asked for once for all that show them. */
export async function editsOf(id: string): Promise<Api['EditsOfFrameDto']> {
  const address = editsAddress(id);
  const found = await get(address);
  void mutate(address, found, { revalidate: false });
  return found;
}

/** Shows another picture of the current frame: what the camera took and back, or one version after the other. */
export function showVersion(
  which: 'before' | 'version',
  {
    state,
    dispatch,
    current,
    shoot,
    notices,
  }: Pick<Seen, 'state' | 'dispatch' | 'current' | 'shoot' | 'notices'>,
): void {
  const frame = current === null ? undefined : shoot.byId.get(current);
  if (!frame) return;
  if (frame.edited === null) {
    const all = finishedVersions(frame);
    if (all.length === 0)
      return notices.say('No edit of this frame came back yet, and nothing of it is finished');
    return dispatch({ type: 'version', version: (state.version + 1) % all.length });
  }
  void editsOf(frame.id).then(
    (of) => {
      const all = versionsOf(frame, of);
      const last = all.length - 1;
      const next = which === 'before' ? (state.version === 0 ? last : 0) : (state.version + 1) % all.length;
      dispatch({ type: 'version', version: next });
    },
    (error: unknown) => notices.say((error as Error).message),
  );
}
