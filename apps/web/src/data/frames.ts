import {
  correctedLocal,
  finishedKey,
  finishedSize,
  FINISHED,
  finishOf,
  formatWords,
  keyParts,
  measuredFacts,
  previewAddress,
  shownName,
  takenOf,
  UNMARKED,
  type QueryFrame,
} from '@arkiv/core';

/** A frame as Cull sees it. */
export interface LoadedFrame extends QueryFrame {
  id: string;
  /** the corrected wall clock, `YYYY-MM-DDTHH:mm:ss.SSS`: what is shown everywhere */
  time: string | null;
  /** the camera's own wall clock */
  local: string | null;
  millis: number;
  offsetMinutes: number | null;
  correctionMillis: number;
  serial: string | null;
  /** EV beside what the camera metered; null: it does not say */
  exposureBias: number | null;
  /** what was focused on, in dioptres; 0: infinity; null: not known */
  focus: number | null;
  /** see `measuresText`; null: not measured yet */
  measures: string | null;
  /** how much it looks like the frame of its body before it; null: not compared */
  close: number | null;
  /** where the middle of that frame lies in it, as shares of width and height beside the middle */
  dx: number | null;
  dy: number | null;
  apertureText: string | null;
  exposureText: string | null;
  /** pixels as stored; `orientation` 5…8 turns them */
  width: number | null;
  height: number | null;
  orientation: number;
  /** where it stands among what was found, as whoever looked had it; missing: it was not looked for */
  nth?: number;
  /** a clip's length */
  seconds: number | null;
  /** key of the picture that shows it, with what it is finished with */
  picture: string | null;
  folder: string;
  /** of the file it shows itself by */
  bytes: number | null;
  /** of a frame among those of other shoots */
  shootId?: string;
  /** 1: its files lie in the bin */
  binned?: number;
}

/** As `GET /shoots/:id/frames` answers. */
export interface FrameColumns {
  count: number;
  columns: Readonly<Record<string, readonly (string | number | null)[]>>;
}

/** A frame of which nothing is known. */
export const NO_FRAME: Readonly<LoadedFrame> = {
  ...{ id: '', name: '', original: '', folder: '' },
  ...UNMARKED,
  ...{ instant: null, local: null, time: null, millis: 0, offsetMinutes: null, correctionMillis: 0 },
  ...{ body: null, serial: null, lens: null, aperture: null, apertureText: null },
  ...{ exposure: null, exposureText: null, iso: null, focalLength: null, exposureBias: null, focus: null },
  ...{ width: null, height: null, orientation: 1, seconds: null },
  ...{
    role: 'original',
    format: '',
    raw: 'none',
    voice: null,
    edited: null,
    finished: null,
    picture: null,
    bytes: null,
  },
  ...{ sign: null, detail: null, measures: null, sharpness: null, advice: '', away: null },
  ...{ close: null, dx: null, dy: null, taken: null },
};

/**
 * Columns back to frames. Each begins as a copy of one that has all members: so the engine keeps them all in one shape. Put
 * together name by name, each is a table of its own, slower to make and to read with every key.
 */
export function framesOf({ count, columns }: FrameColumns): LoadedFrame[] {
  // Of a column that says nothing of any frame each has its part already.
  const entries = Object.entries(columns).filter(([key, column]) => {
    const none = NO_FRAME[key as 'name'];
    return column.some((value) => value !== none);
  });
  return Array.from({ length: count }, (_, i) => {
    const frame: LoadedFrame = { ...NO_FRAME };
    for (const [key, column] of entries) frame[key as 'name'] = column[i] as string;
    const { sharpness, advice } = measuredFacts(frame.measures);
    frame.sharpness = sharpness;
    frame.advice = advice;
    frame.time = timeOf(frame);
    frame.taken = takenOf(frame.time);
    if (frame.finish !== '') frame.finished = FINISHED;
    return frame;
  });
}

const timeOf = ({
  local,
  millis,
  offsetMinutes,
  correctionMillis,
}: Omit<LoadedFrame, 'time' | 'taken'>): string | null =>
  local ? correctedLocal({ local, millis, offsetMinutes, correctionMillis }) : null;

/** A frame with its corrected time beside the camera's own. */
export function withTime(frame: Omit<LoadedFrame, 'time' | 'taken'>): LoadedFrame {
  const time = timeOf(frame);
  return { ...frame, time, taken: takenOf(time) };
}

/** The short number on the film edge: the last digits of the name, else the name. */
export const numberOf = (name: string): string => /(\d{1,6})$/.exec(name)?.[1] ?? shownName(name);

/** Clock time of day, with hundredths: bursts differ only there. */
export const clockOf = (frame: Pick<LoadedFrame, 'time'>): string => frame.time?.slice(11, 22) ?? 'no time';

/** Seconds and hundredths: what tells frames of one take apart. Empty where the camera wrote no time. */
export const secondsOf = (frame: Pick<LoadedFrame, 'time'>): string =>
  frame.time ? clockOf(frame).slice(6) : '';

/** The time of day that the camera's own clock showed, with hundredths. */
export const ownClockOf = (frame: Pick<LoadedFrame, 'local' | 'millis'>): string =>
  frame.local
    ? `${frame.local.slice(11)}.${String(Math.floor(frame.millis / 10)).padStart(2, '0')}`
    : 'no time';

/** What the camera's own clock showed, where it was corrected; else null. */
export const cameraClockOf = (
  frame: Pick<LoadedFrame, 'local' | 'millis' | 'correctionMillis'>,
): string | null =>
  frame.local && frame.correctionMillis !== 0 ? `camera’s clock ${ownClockOf(frame)}` : null;

/** What of a frame is needed to know how large it is shown. */
export type Sized = Pick<LoadedFrame, 'width' | 'height' | 'orientation' | 'picture'>;

/** Upright size in pixels of the picture itself, whatever of it is shown. */
export function fileSize(frame: Omit<Sized, 'picture'>): { width: number; height: number } | null {
  if (!frame.width || !frame.height) return null;
  return frame.orientation >= 5
    ? { width: frame.height, height: frame.width }
    : { width: frame.width, height: frame.height };
}

/** Upright size in pixels of what is shown of it. */
export function uprightSize(frame: Sized): { width: number; height: number } | null {
  const size = fileSize(frame);
  if (!size || !frame.picture?.includes('~')) return size;
  return finishedSize(finishOf(keyParts(frame.picture).finish), size);
}

/** The facts that follow from what a frame is finished with. An edit that came back is shown as it is. */
export function finishFacts(
  { picture, edited }: Pick<LoadedFrame, 'picture' | 'edited'>,
  finish: string,
): Pick<LoadedFrame, 'picture' | 'finished'> {
  const plain = picture === null ? null : keyParts(picture).picture;
  return {
    picture: plain === null || edited !== null ? plain : finishedKey(plain, finish),
    finished: finish === '' ? null : FINISHED,
  };
}

export { previewAddress as previewUrl } from '@arkiv/core';

/**
 * A frame's thumbnail. Under another address once its picture was measured: until then one may stand in that was found in its file,
 * which a browser has kept.
 */
export function thumbUrl({ picture, measures }: Pick<LoadedFrame, 'picture' | 'measures'>): string | null {
  if (picture === null) return null;
  const address = previewAddress(picture, 'thumb');
  return measures === null ? address : `${address}?whole`;
}

/** A clip's length as it is read: 0:14, 12:05. */
export function lengthOf(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** What stands where a picture cannot be shown: what it is instead. */
export function placeholderOf(frame: { role: string; format: string; seconds?: number | null }): string {
  if (frame.role !== 'clip') return `${formatWords(frame.format)}, no picture`;
  return frame.seconds ? `clip, ${lengthOf(frame.seconds)}` : 'clip';
}
