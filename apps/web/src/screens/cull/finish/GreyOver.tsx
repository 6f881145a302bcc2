import { balanceAt, finishOf, inFile, keyParts, shapeOf, type Finish } from '@arkiv/core';
import { useRef } from 'react';
import { fileSize, previewUrl, type LoadedFrame } from '../../../data/frames';
import type { Looking } from '../looking';
import { pictures } from '../pictures';
import { placed } from '../zoom';
import styles from './FinishOver.module.css';

interface Props {
  name: string;
  frame: LoadedFrame;
  values: string;
  looking: Looking;
  /** what makes the spot grey, or why nothing does */
  onGrey: (balance: Pick<Finish, 'temperature' | 'tint'> | null) => void;
}

/** Pixels of the preview around a spot whose mean is taken: one alone may be grain. */
const AROUND = 5;

/** A click in the picture says: this should be grey. */
export function GreyOver({ name, frame, values, looking, onGrey }: Props) {
  const hands = useRef<HTMLDivElement>(null);
  return (
    <div
      ref={hands}
      className={styles.hands}
      data-does="grey"
      data-testid="grey-over"
      onPointerDown={(event) => event.preventDefault()}
      onClick={({ nativeEvent: { offsetX, offsetY } }) => {
        const size = fileSize(frame);
        const image = pictures.ready(previewUrl(keyParts(frame.picture ?? '').picture, 'screen'));
        const { width, height } = hands.current!.getBoundingClientRect();
        if (!size || !image) return;
        const shape = shapeOf(finishOf(values), size);
        const at = placed(shape.box, { width, height }, looking.zoom.of(name), devicePixelRatio);
        const [x, y] = [(offsetX - at.left) / at.width, (offsetY - at.top) / at.height];
        if (x < 0 || x > 1 || y < 0 || y > 1) return;
        onGrey(balanceAt(meanAround(image, inFile(shape, { x, y }))));
      }}
    />
  );
}

/** Mean red, green and blue about a spot of a decoded picture, as its file is. */
function meanAround(image: HTMLImageElement, { x, y }: { x: number; y: number }): [number, number, number] {
  const side = 2 * AROUND + 1;
  const canvas = new OffscreenCanvas(side, side);
  const g = canvas.getContext('2d', { willReadFrequently: true })!;
  const left = Math.round(x * image.naturalWidth) - AROUND;
  const top = Math.round(y * image.naturalHeight) - AROUND;
  g.drawImage(image, left, top, side, side, 0, 0, side, side);
  const { data } = g.getImageData(0, 0, side, side);
  const sums = [0, 0, 0];
  let among = 0;
  for (let i = 0; i < data.length; i += 4) {
    // Beyond the edge there is nothing.
    if (data[i + 3] !== 255) continue;
    among += 1;
    for (let c = 0; c < 3; c++) sums[c]! += data[i + c]!;
  }
  return sums.map((sum) => sum / Math.max(1, among)) as [number, number, number];
}
