import { Box, Button } from '@mui/material';
import { useEffect, useMemo, useRef } from 'react';
import { many, monthOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useShootPages, type ShootsShown } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import type { YearMonth } from '../../parts/YearLine';
import { CAPTION, INK } from '../../theme/theme';
import { ShootLine } from './ShootLine';

interface Props {
  shown: ShootsShown;
  /** how much each month holds, where that is more than what is listed by now */
  months?: readonly YearMonth[];
  /** the month that is to be gone to, YYYY-MM */
  wanted?: string | null;
  onThere?: () => void;
}

/** Shoots by month, the newest first; more come as they are scrolled to. */
export function ShootList({ shown, months: known, wanted = null, onThere }: Props) {
  const { data: pages, error, setSize, isValidating } = useShootPages(shown);
  const found = useMemo(() => pages?.flat() ?? [], [pages]);
  const months = useMemo(() => byMonth(found), [found]);
  // The last page is not full.
  const more = pages !== undefined && (pages.at(-1)?.length ?? 0) > 0 && pages.at(-1)!.length % PAGE === 0;
  const end = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (wanted === null || !pages) return;
    const heading = document.getElementById(`month-${wanted}`);
    // A month is whole when a later page has begun the next one.
    if (!heading && more) {
      if (!isValidating) void setSize((n) => n + 1);
      return;
    }
    heading?.scrollIntoView({ block: 'start' });
    // The keys go on from there.
    heading?.querySelector<HTMLElement>('a')?.focus({ preventScroll: true });
    onThere?.();
  }, [wanted, pages, months, more, isValidating, setSize, onThere]);
  useEffect(() => {
    const button = end.current;
    if (!button) return;
    const watch = new IntersectionObserver(([seen]) => {
      if (seen?.isIntersecting && !isValidating) void setSize((n) => n + 1);
    });
    watch.observe(button);
    return () => watch.disconnect();
  }, [more, isValidating, setSize, found.length]);
  return (
    <>
      <Problem error={error} />
      {!pages && !error && <Loading what="the shoots" />}
      {months.map(([month, list]) => (
        // Months out of view cost nothing: an archive of years stays quick.
        <Box
          key={month}
          id={`month-${month}`}
          sx={{ contentVisibility: 'auto', containIntrinsicSize: `auto ${30 + 90 * list.length}px`, mt: 1 }}
        >
          <Box
            component="h3"
            sx={{ ...CAPTION, color: INK.soft, fontSize: 15, fontWeight: 560, m: 0, py: 0.5 }}
          >
            {monthOf(`${month}-01`)}{' '}
            <Box component="span" sx={{ color: INK.faint, fontWeight: 480 }}>
              · {many(known?.find((m) => m.month === month)?.shoots ?? list.length, 'shoot')}
            </Box>
          </Box>
          {list.map((shoot) => (
            <ShootLine key={shoot.id} shoot={shoot} />
          ))}
        </Box>
      ))}
      {more && (
        <Button ref={end} onClick={() => void setSize((n) => n + 1)}>
          Show older shoots
        </Button>
      )}
    </>
  );
}

/** Shoots of one answer of the server. */
const PAGE = 60;

function byMonth(shoots: readonly Api['ShootDto'][]): [string, Api['ShootDto'][]][] {
  const months = new Map<string, Api['ShootDto'][]>();
  for (const shoot of shoots) {
    const month = shoot.date.slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), shoot]);
  }
  return [...months].sort(([a], [b]) => b.localeCompare(a));
}
