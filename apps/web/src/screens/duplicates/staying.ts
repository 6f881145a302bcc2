import type { Api } from '../../data/http';

export type DuplicateFrame = Api['DuplicateFrameDto'];

/** How much would be missed of a frame: what a client or an editor has, its files, what was said of it. */
const worth = (frame: DuplicateFrame): readonly number[] => [
  Number(frame.delivered > 0),
  Number(frame.handedOff > 0),
  frame.files,
  Number(frame.verdict === 'keep'),
  frame.stars,
  frame.piles.length,
  Number(frame.note !== null),
];

/** The one that is proposed to stay: of which most would be missed; of equals the first. */
export function stayingOf(frames: readonly DuplicateFrame[]): DuplicateFrame {
  return frames.reduce((best, frame) => {
    const [a, b] = [worth(best), worth(frame)];
    const at = a.findIndex((value, i) => value !== b[i]);
    return at >= 0 && b[at]! > a[at]! ? frame : best;
  });
}

/** Which of the others may go when one stays: those whose files it holds, all of them. The rest stays whatever is chosen. */
export const goingBeside = (frames: readonly DuplicateFrame[], staying: string): DuplicateFrame[] =>
  frames.filter(({ id, within }) => id !== staying && within.includes(staying));
