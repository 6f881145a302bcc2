import { finishOf, inFile, inShown, keyParts, shapeOf } from '@arkiv/core';
import { fileSize, type Sized } from '../../../data/frames';

/** What is pointed to is a spot of the file as it stands upright, whatever of it is shown. */
export function spotInFile(frame: Sized, at: { x: number; y: number }): { x: number; y: number } {
  const shape = shapeIn(frame);
  return shape ? inFile(shape, at) : at;
}

/** Where a spot of the file lies in what is shown, or beyond it. */
export function placeShown(frame: Sized, spot: { x: number; y: number }): { x: number; y: number } {
  const shape = shapeIn(frame);
  return shape ? inShown(shape, spot) : spot;
}

/** Where a spot of the file is seen; null: it is not shown. */
export function spotShown(
  frame: Sized,
  spot: { x: number; y: number } | null,
): { x: number; y: number } | null {
  const shape = shapeIn(frame);
  if (!spot || !shape) return spot;
  const at = inShown(shape, spot);
  return at.x >= 0 && at.x <= 1 && at.y >= 0 && at.y <= 1 ? at : null;
}

function shapeIn(frame: Sized) {
  const { finish } = keyParts(frame.picture ?? '');
  const size = fileSize(frame);
  return finish === '' || !size ? null : shapeOf(finishOf(finish), size);
}
