import type { Detail } from '@arkiv/core';
import { previewUrl, uprightSize, type Sized } from '../../data/frames';
import type { Pictures } from './pictures';
import type { Size } from './zoom';

/** Pixels of a screen preview's longer side: a frame that has no more needs nothing else. */
const SCREEN = 2560;

/** What can be shown of a frame, the best last. */
export const RUNGS = ['thumb', 'embedded', 'screen', 'full'] as const;
export type Rung = (typeof RUNGS)[number];

const WORDS: Readonly<Record<Rung, string>> = {
  thumb: 'thumbnail',
  embedded: 'embedded picture',
  screen: 'screen preview',
  full: 'full detail',
};

type Shown = Sized;

/** Whether a screen preview has all pixels of a frame. */
export const screenIsAll = (frame: Shown): boolean => Math.max(frame.width ?? 0, frame.height ?? 0) <= SCREEN;

/**
 * The best of a frame's pictures that is decoded for a size: `needed` are device pixels across. Where a screen preview has
 * enough of them the full picture would only be made smaller anew with each step.
 */
export function bestReady(
  pictures: Pick<Pictures, 'ready'>,
  picture: string,
  needed: number,
): { image: HTMLImageElement; rung: Rung } | null {
  const ready = (rung: Rung) => {
    const image = pictures.ready(previewUrl(picture, rung));
    return image && { image, rung };
  };
  const screen = ready('screen');
  // One pixel is lost to rounding when a picture is fitted.
  if (screen && screen.image.naturalWidth + 1 >= needed) return screen;
  return ready('full') ?? screen ?? ready('embedded') ?? ready('thumb');
}

interface Asked {
  /** single pixels are looked at */
  close: boolean;
  /** nobody steps through at the moment */
  rested: boolean;
  /** a key is held: frames go by faster than large pictures come */
  hurried?: boolean;
  screenReady: boolean;
}

/** Frames around of which large pictures are made ready; of more, thumbnails. */
const LARGE_AROUND = 5;

/**
 * What a place of the screen wants: of its frame all that it can show, the quickest first; then what may be looked at
 * next, and at rest what a closer look would need. While a key is held nothing but thumbnails: a large picture would come
 * when its frame is gone.
 */
export function wishes(
  frame: Shown,
  around: readonly Shown[],
  { close, rested, hurried = false, screenReady }: Asked,
): string[] {
  const of = (one: Shown, rung: Rung) => (one.picture ? [previewUrl(one.picture, rung)] : []);
  const full = (one: Shown) => (screenIsAll(one) ? [] : of(one, 'full'));
  const thumbs = [...of(frame, 'thumb'), ...around.flatMap((one) => of(one, 'thumb'))];
  if (hurried) return [...new Set(thumbs)];
  const next = around.slice(0, 2);
  const all = [
    ...of(frame, 'thumb'),
    ...(screenReady ? [] : of(frame, 'embedded')),
    ...of(frame, 'screen'),
    ...(close ? full(frame) : []),
    ...around.slice(0, LARGE_AROUND).flatMap((one) => of(one, 'screen')),
    ...thumbs,
    ...(close || rested ? [...full(frame), ...next.flatMap(full)] : []),
  ];
  return [...new Set(all)];
}

/** What a picture is that does not show its file's own pixels. */
const MADE: Readonly<Partial<Record<Detail, string>>> = {
  embedded: 'embedded picture',
  developed: 'developed picture',
};

/** How much of a frame's detail is on screen. */
export interface DetailSaid {
  words: string;
  /** nothing more could be seen here */
  full: boolean;
}

/** Loaded, and what for: whether more is still on its way. */
export interface OnScreen {
  rung: Rung;
  /** how much of its file the frame's picture shows */
  detail: Detail | null;
  /** pixels of the picture that is shown, across */
  width: number;
  /** pixels of the frame, across, where they are known */
  frameWidth: number | null;
  /** device pixels of the screen that it takes up, across */
  onScreen: number;
  /** screen pixels for one of the frame's; null: fitted */
  scale: number | null;
  /** a better one is on its way */
  better: boolean;
}

/**
 * Says honestly what is shown. Fitted, detail is full for this size with as many pixels as the screen can show here; at
 * 100 % with as many as the frame has. With fewer, a soft picture may only be a small one.
 */
export function detailOf({ rung, detail, width, frameWidth, onScreen, scale, better }: OnScreen): DetailSaid {
  const percent = scale === null ? '' : `${Math.round(scale * 100)} % · `;
  const made = detail === null ? undefined : MADE[detail];
  const wanted = Math.min(Math.round(onScreen), frameWidth ?? Math.round(onScreen));
  // One pixel is lost to rounding when a picture is fitted.
  if (width + 1 >= wanted) {
    const all = made ? `${made}, full detail` : 'full detail';
    return { words: `${percent}${all}${scale === null ? ' at this size' : ''}`, full: true };
  }
  const coming = better ? ', loading full detail' : '';
  const shown = rung === 'full' && made ? made : WORDS[rung];
  return { words: `${percent}${shown}, ${width} of ${wanted} px${coming}`, full: false };
}

/** A frame's upright pixels; of one whose size nobody has read those of what is shown. */
export const sizeOf = (frame: Shown, image: HTMLImageElement): Size =>
  uprightSize(frame) ?? { width: image.naturalWidth, height: image.naturalHeight };
