import { Box, Button } from '@mui/material';
import { lineValue } from '@arkiv/core';
import { Fragment, useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { longDay, many } from '../../data/format';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { daysOfYear, dayBeside } from './calendarDays';

const monthName = new Intl.DateTimeFormat(undefined, { month: 'short', timeZone: 'UTC' });

/** A year as a picture: a month a row, a day a place, as much ink as frames were taken on it. */
export function Calendar() {
  const [query, setQuery] = useSearchParams();
  const asked = Number(query.get('year'));
  const [newest, setNewest] = useState(() => new Date().getFullYear());
  const year = asked || newest;
  const { data, error } = useGet(`/find/days?year=${year}`, { keepPreviousData: true });
  // Where nothing was taken in this year yet, the last one that has frames is shown.
  const last = data?.years.at(-1);
  useEffect(() => {
    if (last !== undefined && last < newest) setNewest(last);
  }, [last, newest]);
  const navigate = useNavigate();
  const grid = useRef<HTMLDivElement>(null);
  const days = data?.days ?? NONE;
  const rows = useMemo(() => daysOfYear(year), [year]);
  const most = Math.max(1, ...Object.values(days));
  const total = Object.values(days).reduce((sum, n) => sum + n, 0);
  const [stood, stand] = useState<string | null>(null);
  // The keys begin at the first day that has frames.
  const current = stood ?? Object.keys(days)[0] ?? '01-01';
  const open = (day: string): void =>
    void navigate(`/find?q=${encodeURIComponent(lineValue(`${year}-${day}`))}&first=oldest&rejects=1`);
  const go = (to: number): void => {
    stand(null);
    setQuery({ by: 'calendar', year: String(to) });
  };
  const years = data?.years ?? [];
  const before = years.filter((one) => one < year).at(-1);
  const after = years.find((one) => one > year);
  const onKeyDown = (event: KeyboardEvent): void => {
    const to = dayBeside(year, current, event.key);
    if (to === null) return;
    event.preventDefault();
    stand(to);
    grid.current?.querySelector<HTMLElement>(`[data-day="${to}"]`)?.focus();
  };
  return (
    <>
      <Problem error={error} />
      {!data && !error && <Loading what="the days" />}
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5, mb: 1.5 }}>
        <Button color="inherit" disabled={before === undefined} onClick={() => go(before!)}>
          ‹ {before ?? 'none earlier'}
        </Button>
        <Box component="h2" sx={{ m: 0, fontSize: 22, fontWeight: 680 }}>
          {year}
        </Box>
        <Button color="inherit" disabled={after === undefined} onClick={() => go(after!)}>
          {after ?? 'none later'} ›
        </Button>
        <Box sx={{ color: INK.soft }} role="status">
          {data &&
            (total === 0
              ? 'no frames'
              : `${many(total, 'frame')} on ${many(Object.keys(days).length, 'day')}, the most on one day ${many(most, 'frame')}`)}
        </Box>
      </Box>
      <Box
        ref={grid}
        role="group"
        aria-label={`The days of ${year}`}
        onKeyDown={onKeyDown}
        sx={{ display: 'grid', gridTemplateColumns: '44px repeat(31, minmax(0, 1fr)) 76px', gap: '2px' }}
      >
        <span />
        {Array.from({ length: 31 }, (_, i) => (
          <Box key={i} aria-hidden sx={{ ...CAPTION, color: INK.faint, fontSize: 12, textAlign: 'center' }}>
            {i + 1}
          </Box>
        ))}
        <span />
        {rows.map(({ month, days: its }) => (
          <Fragment key={month}>
            <Box sx={{ ...CAPTION, color: INK.soft, alignSelf: 'center' }}>
              {monthName.format(new Date(`${year}-${month}-01T00:00:00Z`))}
            </Box>
            {its.map((day, i) =>
              day === null ? (
                <span key={i} />
              ) : (
                <Day
                  key={day.key}
                  words={`${longDay(`${year}-${day.key}`)}: ${many(days[day.key] ?? 0, 'frame')}`}
                  day={day.key}
                  share={(days[day.key] ?? 0) / most}
                  weekend={day.weekend}
                  current={day.key === current}
                  onOpen={() => days[day.key] && open(day.key)}
                />
              ),
            )}
            <Box sx={{ ...CAPTION, color: INK.faint, textAlign: 'right', alignSelf: 'center' }}>
              {sumOf(days, month) > 0 && many(sumOf(days, month), 'frame')}
            </Box>
          </Fragment>
        ))}
      </Box>
      <Box sx={{ color: INK.faint, mt: 1 }}>A click or Enter on a day shows its frames in Find.</Box>
    </>
  );
}

const NONE: Readonly<Record<string, number>> = {};
const sumOf = (days: Readonly<Record<string, number>>, month: string): number =>
  Object.entries(days).reduce((sum, [day, n]) => (day.startsWith(month) ? sum + n : sum), 0);

interface DayProps {
  day: string;
  words: string;
  /** frames by those of the fullest day */
  share: number;
  weekend: boolean;
  current: boolean;
  onOpen: () => void;
}

function Day({ day, words, share, weekend, current, onOpen }: DayProps) {
  // The area says how many: a quiet day stays visible beside a wedding's.
  const size = share === 0 ? 0 : Math.max(16, Math.sqrt(share) * 92);
  return (
    <Box
      component="button"
      type="button"
      data-day={day}
      aria-label={words}
      title={words}
      tabIndex={current ? 0 : -1}
      onClick={onOpen}
      sx={{
        ...{ aspectRatio: '1', p: 0, border: 0, display: 'grid', placeItems: 'center', minWidth: 0 },
        bgcolor: weekend ? GROUND.raised : GROUND.deep,
        color: INK.soft,
        cursor: share > 0 ? 'pointer' : 'default',
        '&:hover': { color: INK.full },
        '&:focus-visible': { outline: `2px solid ${INK.full}`, outlineOffset: -2 },
      }}
    >
      <Box
        component="span"
        sx={{ width: `${size}%`, height: `${size}%`, borderRadius: '50%', bgcolor: 'currentColor' }}
      />
    </Box>
  );
}
