import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { useEffect, useRef } from 'react';
import { SPACE_KINDS, sumOf, type KindBytes } from '@arkiv/core';
import { bytes } from '../../data/format';
import { FONT, GROUND, INK } from '../../theme/theme';
import { KIND_COLOURS, KIND_WORDS } from './spaceWords';

Chart.register(BarController, BarElement, CategoryScale, Legend, LinearScale, Tooltip);

export interface SpaceBar {
  name: string;
  bytes: KindBytes;
}

/** Bytes of each bar, parted by what they are. `along`: bars lie, for names that are long. */
export function SpaceChart({
  bars,
  about,
  along = false,
}: {
  bars: readonly SpaceBar[];
  about: string;
  along?: boolean;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const kinds = SPACE_KINDS.filter((kind) => bars.some((bar) => bar.bytes[kind] > 0));
  const told = bars.map((bar) => `${bar.name}: ${bytes(sumOf(bar.bytes))}`).join('; ');
  useEffect(() => {
    const ticks = { color: INK.soft, font: { family: FONT } };
    const amount = { ...ticks, maxTicksLimit: 5, callback: (value: number | string) => bytes(Number(value)) };
    const named = { stacked: true, grid: { display: false }, ticks };
    const counted = { stacked: true, beginAtZero: true, grid: { color: GROUND.line }, ticks: amount };
    const chart = new Chart(canvas.current!, {
      type: 'bar',
      data: {
        labels: bars.map(({ name }) => name),
        datasets: kinds.map((kind) => ({
          ...{ label: KIND_WORDS[kind], backgroundColor: KIND_COLOURS[kind], maxBarThickness: 26 },
          data: bars.map((bar) => bar.bytes[kind]),
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        indexAxis: along ? 'y' : 'x',
        plugins: {
          legend: { align: 'start', labels: { ...ticks, boxWidth: 12, boxHeight: 12 } },
          tooltip: {
            callbacks: { label: ({ dataset, raw }) => `${dataset.label}: ${bytes(Number(raw))}` },
          },
        },
        scales: along ? { y: named, x: counted } : { x: named, y: counted },
      },
    });
    return () => chart.destroy();
  }, [bars, kinds, along]);
  return (
    <div style={{ position: 'relative', height: along ? 70 + bars.length * 34 : 220, minWidth: 0 }}>
      <canvas ref={canvas} role="img" aria-label={`${about} ${told}`} />
    </div>
  );
}
