import { correctedLocal, keptCapture, type CaptureTime, type Label, type Verdict } from '@arkiv/core';
import { SHOWN_PICTURE } from './frameColumns';

/** A frame among frames of other shoots. */
export interface PlacedFrame {
  id: string;
  shootId: string;
  shoot: string;
  name: string;
  folder: string;
  /** corrected wall clock, `YYYY-MM-DDTHH:mm:ss.SSS` */
  time: string | null;
  body: string | null;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  role: string;
  format: string;
  /** key of the picture that shows it */
  picture: string | null;
}

export type PlacedRow = Omit<PlacedFrame, 'time'> & Omit<CaptureTime, 'local'> & { local: string | null };

/** Such frames, in SQL: of the alias `f`, with its shoot as `s`. */
export const placedFrames = (
  from: 'frame_here' | 'frame',
  picture: string,
): string => `SELECT f.id, f."shootId", s.title AS shoot, f.name, f.folder, f.local, f.millis, f."offsetMinutes",
    f."correctionMillis", f.body, f.verdict, f.stars, f.label, f.role, f.format, ${picture} AS picture
  FROM ${from} f JOIN shoot s ON s.id = f."shootId"`;

/** {@link placedFrames} that are here. */
export const PLACED_FRAME = placedFrames('frame_here', SHOWN_PICTURE);

export function placedFrame({
  local,
  millis,
  offsetMinutes,
  correctionMillis,
  ...frame
}: PlacedRow): PlacedFrame {
  const capture = keptCapture({ local, millis, offsetMinutes, correctionMillis });
  return { ...frame, time: capture && correctedLocal(capture) };
}
