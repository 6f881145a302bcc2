import type { Tones } from '@arkiv/core';
import { memo, useEffect, useRef, useState } from 'react';
import { previewUrl } from '../../data/frames';
import { tonesIn } from '../../data/pixels';
import { pictures } from './pictures';
import styles from './Histogram.module.css';

const [WIDTH, HEIGHT] = [256, 64];
const CHANNELS = [
  ['red', '#e0524f'],
  ['green', '#5fae57'],
  ['blue', '#5b86d6'],
] as const;

/** The tones of the frame on screen, and which share of it is clipped at either end. */
export const Histogram = memo(function Histogram({ picture }: { picture: string | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [shown, setShown] = useState<{ picture: string; tones: Tones } | null>(null);
  useEffect(() => {
    if (!picture) return;
    const url = previewUrl(picture, 'screen');
    let [gone, asked] = [false, false];
    const look = () => {
      const image = pictures.ready(url);
      if (!image || asked) return;
      asked = true;
      void tonesIn(image).then((tones) => !gone && setShown({ picture, tones }));
    };
    look();
    const stop = pictures.subscribe(look);
    return () => {
      gone = true;
      stop();
    };
  }, [picture]);
  const tones = shown?.picture === picture ? shown.tones : null;
  useEffect(() => {
    const g = canvas.current?.getContext('2d');
    if (!g) return;
    g.clearRect(0, 0, WIDTH, HEIGHT);
    if (tones) draw(g, tones);
  }, [tones]);
  return (
    <section className={styles.tones} aria-label="Tones">
      <canvas ref={canvas} width={WIDTH} height={HEIGHT} aria-hidden />
      <div className={styles.shares}>
        <span>{tones ? `dark ${percent(tones.drowned)}` : '…'}</span>
        <span>{tones && `blown ${percent(tones.blown)}`}</span>
      </div>
    </section>
  );
});

/** A thousandth of a picture is a visible spot; less is said as such. */
const percent = (share: number): string =>
  share === 0 ? '0 %' : share < 0.001 ? '< 0.1 %' : `${(share * 100).toFixed(1)} %`;

function draw(g: CanvasRenderingContext2D, tones: Tones): void {
  // Both ends may be spikes that would flatten all the rest.
  const most = Math.max(1, ...CHANNELS.map(([channel]) => Math.max(...tones[channel].subarray(2, 254))));
  g.globalCompositeOperation = 'lighter';
  for (const [channel, colour] of CHANNELS) {
    g.fillStyle = colour;
    tones[channel].forEach((n, value) => {
      const height = Math.min(HEIGHT, Math.round((n / most) * HEIGHT));
      g.fillRect(value, HEIGHT - height, 1, height);
    });
  }
  g.globalCompositeOperation = 'source-over';
}
