import { Box } from '@mui/material';
import { useEffect, useMemo, useRef } from 'react';
import { many } from '../data/format';
import { CAPTION, GROUND, INK } from '../theme/theme';

export interface YearMonth {
  /** YYYY-MM */
  month: string;
  frames: number;
  shoots: number;
}

export interface Year {
  year: string;
  /** January to December */
  months: YearMonth[];
}

/** Every year from the first to the last that has a shoot, each with its twelve months. Newest year last. */
export function yearsOf(known: readonly YearMonth[]): Year[] {
  const byMonth = new Map(known.map((month) => [month.month, month]));
  const years = [...byMonth.keys()].map((month) => Number(month.slice(0, 4)));
  if (years.length === 0) return [];
  const [first, last] = [Math.min(...years), Math.max(...years)];
  return Array.from({ length: last - first + 1 }, (_, i) => {
    const year = String(first + i);
    return {
      year,
      months: Array.from({ length: 12 }, (_, m) => {
        const month = `${year}-${String(m + 1).padStart(2, '0')}`;
        return byMonth.get(month) ?? { month, frames: 0, shoots: 0 };
      }),
    };
  });
}

const HEIGHT = 34;
const name = new Intl.DateTimeFormat(undefined, { month: 'short', timeZone: 'UTC' });
const monthName = (month: string) => name.format(new Date(`${month}-01T00:00:00Z`));

/** The archive's time line: a bar for every month, as high as the frames shot in it; choosing one goes there. */
export function YearLine({
  months: known,
  onMonth,
}: {
  months: readonly YearMonth[];
  onMonth: (month: string) => void;
}) {
  const years = useMemo(() => yearsOf(known), [known]);
  const most = Math.max(1, ...years.flatMap((y) => y.months.map((m) => m.frames)));
  const box = useRef<HTMLElement>(null);
  // The newest years are what is looked for first.
  useEffect(() => {
    if (box.current) box.current.scrollLeft = box.current.scrollWidth;
  }, [years.length]);
  return (
    <Box
      ref={box}
      component="nav"
      aria-label="Time line"
      sx={{ display: 'flex', gap: 2, overflowX: 'auto', pb: 1, mb: 3 }}
    >
      {years.map(({ year, months }) => (
        <Box key={year} sx={{ flex: '1 0 300px', maxWidth: 620 }}>
          <Box sx={{ ...CAPTION, color: INK.soft, fontWeight: 620 }}>{year}</Box>
          <Box sx={{ display: 'flex', gap: '2px', borderBottom: `1px solid ${GROUND.line}` }}>
            {months.map((m) => (
              <Month key={m.month} month={m} most={most} onMonth={onMonth} />
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Month({
  month,
  most,
  onMonth,
}: {
  month: YearMonth;
  most: number;
  onMonth: (month: string) => void;
}) {
  // The square root keeps a quiet month visible beside a wedding month.
  const high = month.frames === 0 ? 0 : Math.max(3, Math.sqrt(month.frames / most) * HEIGHT);
  const words = `${monthName(month.month)} ${month.month.slice(0, 4)}: ${many(month.shoots, 'shoot')}, ${many(month.frames, 'frame')}`;
  return (
    <Box
      component="button"
      type="button"
      disabled={month.shoots === 0}
      aria-label={words}
      title={words}
      onClick={() => onMonth(month.month)}
      sx={{
        flex: 1,
        minWidth: 22,
        p: 0,
        border: 0,
        font: 'inherit',
        bgcolor: 'transparent',
        color: INK.faint,
        cursor: month.shoots > 0 ? 'pointer' : 'default',
        '&:hover:enabled': { bgcolor: GROUND.raised, color: INK.full },
      }}
    >
      <Box sx={{ height: HEIGHT, display: 'flex', alignItems: 'flex-end' }}>
        <Box sx={{ width: '100%', height: high, bgcolor: 'currentColor' }} />
      </Box>
      <Box sx={{ ...CAPTION, fontSize: 12, color: month.shoots > 0 ? INK.soft : '#8a8a8a' }}>
        {monthName(month.month)}
      </Box>
    </Box>
  );
}
