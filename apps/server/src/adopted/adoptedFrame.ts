import {
  firstSaid,
  joinedKeywords,
  keptTexts,
  marksOf,
  textsOf,
  type CardFrame,
  type FrameFacts,
  type SidecarModel,
} from '@arkiv/core';
import type { FoundFile, FoundFrame } from '../frames/foundFrames';
import type { NewPlace } from '../frames/frameStore';
import { newFrame } from '../frames/newFrame';
import { labelFor } from '../settings/labelFor';
import type { StudioSettings } from '../settings/settings.service';
import type { SaidBefore } from './saidBeside.service';

/** A frame that is new, with all that was read of it. */
export interface ReadFrame {
  group: CardFrame;
  files: FoundFile[];
  facts: FrameFacts;
  before: SaidBefore;
  /** when it was taken, YYYY-MM-DD */
  day: string;
}

/** A frame as it begins where it was found: with what was said of it there, and of the camera where nobody said anything. */
export function adoptedFrame(
  { group, files, facts, before }: ReadFrame,
  at: NewPlace & { id: string },
  zoneMinutes: number,
  { settings, now }: { settings: StudioSettings; now: number },
): FoundFrame {
  const { sidecar, beside } = before;
  const said = beside ? before.said : firstSaid([before.said, saidByCamera(facts)]);
  const { capture, aperture, exposure } = facts;
  const corrected =
    capture && said.clockCorrection ? { ...capture, correctionMillis: said.clockCorrection } : capture;
  const begins = newFrame(
    at,
    { base: group.base, files: group.files, facts: { ...facts, capture: corrected } },
    zoneMinutes,
  );
  const marks = marksOf(said, (text) => labelFor(text, settings));
  const isMarked = beside || marks.verdict !== 'undecided' || marks.stars > 0 || marks.label !== null;
  const dated = said.metadataDate === null ? NaN : Date.parse(said.metadataDate);
  const frame = Object.assign(begins, marks, {
    original: said.preservedFileName?.replace(/\.[^.]*$/, '') ?? group.base,
    keywords: joinedKeywords(said.keywords),
    persons: joinedKeywords(said.persons),
    texts: keptTexts(textsOf(said)),
    finish: said.finish ?? '',
    markedAt: isMarked ? (Number.isNaN(dated) ? now : dated) : 0,
  });
  return {
    frame,
    text: {
      frameId: at.id,
      ...{ apertureText: aperture?.text ?? null, exposureText: exposure?.text ?? null },
      sidecarBase: sidecar?.model ?? null,
      foreign: sidecar && sidecar.foreign.key !== '' ? sidecar.foreign : null,
    },
    files,
  };
}

const saidByCamera = ({ rating, label }: FrameFacts): Partial<SidecarModel> => ({
  verdict: rating === -1 ? 'reject' : 'undecided',
  stars: Math.max(0, rating ?? 0),
  label,
});
