import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { useEffect, useRef } from 'react';
import { count, many } from '../../data/format';
import type { Api } from '../../data/http';
import { FONT, GROUND, INK, MARKER } from '../../theme/theme';

Chart.register(BarController, BarElement, CategoryScale, Legend, LinearScale, Tooltip);

const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'short', timeZone: 'UTC' });

/** Frames taken, kept and delivered in each month of a year. */
export function YearChart({ months }: { months: readonly Api['LedgerMonthDto'][] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const ticks = { color: INK.soft, font: { family: FONT } };
    const bars = (label: string, of: 'frames' | 'keepers' | 'delivered', colour: string) => ({
      ...{ label, data: months.map((month) => month[of]), backgroundColor: colour, maxBarThickness: 22 },
    });
    const chart = new Chart(canvas.current!, {
      type: 'bar',
      data: {
        labels: months.map(({ month }) => MONTH.format(new Date(`${month}-15T00:00:00Z`))),
        datasets: [
          bars('taken', 'frames', INK.faint),
          bars('kept', 'keepers', INK.full),
          bars('delivered', 'delivered', MARKER),
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { align: 'start', labels: { ...ticks, boxWidth: 12, boxHeight: 12 } } },
        scales: {
          x: { grid: { display: false }, ticks },
          y: {
            beginAtZero: true,
            grid: { color: GROUND.line },
            ticks: { ...ticks, precision: 0, maxTicksLimit: 5 },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [months]);
  const told = months
    .filter(({ frames }) => frames > 0)
    .map(
      ({ month, frames, keepers, delivered }) =>
        `${month}: ${many(frames, 'frame')}, ${count(keepers)} kept, ${count(delivered)} delivered`,
    );
  return (
    <div style={{ position: 'relative', height: 180, minWidth: 0 }}>
      <canvas ref={canvas} role="img" aria-label={`By month. ${told.join('; ')}`} />
    </div>
  );
}
