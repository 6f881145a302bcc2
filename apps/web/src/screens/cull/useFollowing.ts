import { keyParts } from '@arkiv/core';
import { useEffect, useRef, useState } from 'react';
import { previewUrl, type LoadedFrame } from '../../data/frames';
import { similarityOf } from '../../data/pixels';
import { paneOf } from './sideCommands';
import { Following } from './following';
import { placeShown, spotInFile } from './finish/spots';
import type { Looking } from './looking';

/**
 * While frames stand side by side and are zoomed together, the same detail lies in the middle of each, though the camera
 * moved. Gives the frames for which that cannot be done: they show equal places.
 */
export function useFollowing(frames: readonly LoadedFrame[], looking: Looking): ReadonlySet<string> {
  const [unsure, setUnsure] = useState<ReadonlySet<string>>(NONE);
  const key = frames.map(({ id, picture }) => `${id} ${picture}`).join(' ');
  const newest = useRef(frames);
  useEffect(() => {
    newest.current = frames;
  });
  useEffect(() => {
    let gone = false;
    const shown = key.split(' ');
    const all = Array.from({ length: shown.length / 2 }, (_, i) => ({
      id: shown[2 * i]!,
      picture: shown[2 * i + 1]!,
    }));
    const [first, ...others] = all;
    if (!first) return;
    const following = new Following(first.id);
    const idOf = (pane: string) => all.find(({ id }) => paneOf({ view: 'side' }, id) === pane)?.id;
    looking.zoom.follow((from, to, at) => {
      const [one, other] = [idOf(from), idOf(to)];
      if (one === undefined || other === undefined) return null;
      // Files are laid over each other, whatever of each is shown.
      const framed = (id: string) => newest.current.find((frame) => frame.id === id);
      const [its, beside] = [framed(one), framed(other)];
      const there = following.place(one, other, its ? spotInFile(its, at) : at);
      return there && beside ? placeShown(beside, there) : there;
    });
    void (async () => {
      for (const { id, picture } of others) {
        const laid = await lay(keyParts(first.picture).picture, keyParts(picture).picture);
        if (gone) return;
        following.set(id, laid);
        looking.zoom.moved();
        setUnsure(new Set(others.filter((other) => following.follows(other.id) === false).map((o) => o.id)));
      }
    })();
    return () => {
      gone = true;
      looking.zoom.follow(null);
      setUnsure(NONE);
    };
  }, [key, looking]);
  return unsure;
}

const NONE: ReadonlySet<string> = new Set();

/** A picture that cannot be had is not laid over anything. */
async function lay(first: string, second: string) {
  try {
    const [one, other] = await Promise.all([small(first), small(second)]);
    const { width, height } = one;
    return { similarity: await similarityOf(one, other), width, height };
  } catch {
    return { similarity: null, width: 1, height: 1 };
  }
}

/** Small pictures are there at once, and a pixel between theirs is a few of the frame's. */
async function small(picture: string): Promise<ImageBitmap> {
  const answer = await fetch(previewUrl(picture, 'thumb'));
  if (!answer.ok) throw new Error(`no picture: ${answer.status}`);
  return createImageBitmap(await answer.blob());
}
