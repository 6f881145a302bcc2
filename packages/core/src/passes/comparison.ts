import { applyMark, isMarkValue, type MarkOperation, type Marks } from '../marks/marks';

/** A pass, as far as it decides what a frame was in it. */
export interface PassMoment {
  id: string;
  /** milliseconds since 1970 UTC */
  begunAt: number;
}

/**
 * What a frame was in a pass: what was decided in it, and for the rest what it was when the pass began. What others decide
 * meanwhile is theirs. `now`: its marks by now; `operations`: all of the frame's, in the journal's order.
 */
export function marksInPass(now: Marks, operations: readonly MarkOperation[], pass: PassMoment): Marks {
  let marks = now;
  // What a frame came with stands in no operation but as what the first one changed.
  for (const { kind, from } of [...operations].reverse())
    // A program that knew nothing of it may have said anything of what was before.
    if (isMarkValue(kind, from)) marks = applyMark(marks, { kind, to: from });
  for (const operation of operations)
    if (operation.pass !== pass.id && operation.at < pass.begunAt) marks = applyMark(marks, operation);
  for (const operation of operations) if (operation.pass === pass.id) marks = applyMark(marks, operation);
  return marks;
}

/** Ids of the frames that both passes have seen, by which of them kept it. */
export interface ComparedPasses {
  both: string[];
  onlyFirst: string[];
  onlySecond: string[];
  neither: string[];
}

/** `kept`: whether the first and the second pass kept a frame. */
export function comparedPasses(
  frames: Iterable<string>,
  kept: (id: string) => readonly [first: boolean, second: boolean],
): ComparedPasses {
  const compared: ComparedPasses = { both: [], onlyFirst: [], onlySecond: [], neither: [] };
  for (const id of frames) {
    const [first, second] = kept(id);
    compared[first ? (second ? 'both' : 'onlyFirst') : second ? 'onlySecond' : 'neither'].push(id);
  }
  return compared;
}
