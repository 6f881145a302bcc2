import { modelOfBody } from '../metadata/facts';
import { keptCapture, type CaptureTime } from '../time/captureTime';
import type { NameFacts } from './pattern';

/** A frame of the archive, as far as names are made of it. */
export interface KeptNameFacts extends Omit<CaptureTime, 'local'> {
  local: string | null;
  original: string;
  /** make · model · serial */
  body: string | null;
  serial: string | null;
  stars: number;
}

/** What the fields of a name stand for, for a frame that is archived: the same wherever it is named. */
export function nameFactsOf(
  frame: KeptNameFacts,
  of: Pick<NameFacts, 'shoot' | 'client' | 'place' | 'creator' | 'card' | 'seq'>,
): NameFacts {
  const { original, stars } = frame;
  const serial = frame.serial ?? '';
  return {
    ...of,
    ...{ capture: keptCapture(frame), original, stars, serial },
    body: modelOfBody(frame.body, frame.serial),
  };
}
