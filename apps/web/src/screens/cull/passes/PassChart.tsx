import { BarController, BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { useEffect, useRef } from 'react';
import { FONT, GROUND, INK, MARKER } from '../../../theme/theme';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

interface Props {
  /** what it shows, for who does not see it */
  label: string;
  bars: readonly { words: string; value: number }[];
  /** the highest value that can be; null: the highest that is */
  most: number | null;
}

/** Bars, drawn once for what is given. */
export function PassChart({ label, bars, most }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const ticks = { color: INK.soft, font: { family: FONT } };
    const chart = new Chart(canvas.current!, {
      type: 'bar',
      data: {
        labels: bars.map(({ words }) => words),
        datasets: [{ data: bars.map(({ value }) => value), backgroundColor: MARKER, maxBarThickness: 26 }],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: { grid: { display: false }, ticks: { ...ticks, maxRotation: 0, autoSkipPadding: 12 } },
          y: {
            beginAtZero: true,
            grid: { color: GROUND.line },
            ticks: { ...ticks, precision: 0, maxTicksLimit: 5 },
            ...(most !== null && { max: most }),
          },
        },
      },
    });
    return () => chart.destroy();
  }, [bars, most]);
  return (
    <div style={{ position: 'relative', height: 120, minWidth: 0 }}>
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  );
}
