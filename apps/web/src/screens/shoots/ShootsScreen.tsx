import { Box, Button, TextField, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { many, mediumDay, monthOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useShootPages, useShootTotals } from '../../data/live';
import { LeadStrip } from '../../parts/LeadStrip';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { PassOver } from '../../parts/PassOver';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { YearLine } from '../../parts/YearLine';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { Decided } from '../desk/ShootRow';

type ShootDto = Api['ShootDto'];

/** All shoots, newest first, by month, each with a strip of leads; over them the archive's time line. */
export function ShootsScreen() {
  const [text, setText] = useState('');
  // The field answers at once; the list follows when the typing rests.
  const find = useDeferredValue(text.trim());
  const { data: totals } = useShootTotals(find);
  const { data: all } = useShootTotals();
  const { data: pages, error, setSize, isValidating } = useShootPages(find);
  const found = useMemo(() => pages?.flat() ?? [], [pages]);
  const months = useMemo(() => byMonth(found), [found]);
  const more = pages !== undefined && totals !== undefined && found.length < totals.shoots;
  const [wanted, setWanted] = useState<string | null>(null);
  const end = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (wanted === null) return;
    const heading = document.getElementById(`month-${wanted}`);
    // A month is whole when a later page has begun the next one.
    if (!heading && more) {
      if (!isValidating) void setSize((n) => n + 1);
      return;
    }
    setWanted(null);
    heading?.scrollIntoView({ block: 'start' });
    // The keys go on from there.
    heading?.querySelector<HTMLElement>('a')?.focus({ preventScroll: true });
  }, [wanted, months, more, isValidating, setSize]);
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
    <Page
      title="Shoots"
      lead={totals && `${many(totals.shoots, 'shoot')}, ${many(totals.frames, 'frame')}`}
      actions={
        <>
          {totals && totals.frames > 0 && (
            <PassOver
              words={
                find === ''
                  ? `all ${many(totals.shoots, 'shoot')}`
                  : `${many(totals.shoots, 'shoot')} with “${find}”`
              }
              over={{ find }}
            />
          )}
          <TextField
            label="Title, client or place"
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setText('')}
            sx={{ width: 260 }}
          />
        </>
      }
    >
      <Problem error={error} />
      {!pages && !error && <Loading what="the shoots" />}
      {all?.shoots === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          Nothing is archived yet. <TextLink to="/">Take in a card from the Desk</TextLink>
        </Typography>
      )}
      {totals && totals.shoots > 0 && <YearLine months={totals.months} onMonth={setWanted} />}
      {all && all.shoots > 0 && totals?.shoots === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          None of {many(all.shoots, 'shoot')} has “{text}” in its title, client or place. Escape in the field
          shows all.
        </Typography>
      )}
      {months.map(([month, list]) => (
        // Months out of view cost nothing: an archive of years stays quick.
        <Box
          key={month}
          id={`month-${month}`}
          sx={{ contentVisibility: 'auto', containIntrinsicSize: `auto ${50 + 90 * list.length}px` }}
        >
          <Section
            title={monthOf(`${month}-01`)}
            aside={
              <Box sx={{ color: INK.faint }}>
                {many(totals?.months.find((m) => m.month === month)?.shoots ?? list.length, 'shoot')}
              </Box>
            }
          >
            {list.map((shoot) => (
              <ShootLine key={shoot.id} shoot={shoot} />
            ))}
          </Section>
        </Box>
      ))}
      {more && (
        <Button ref={end} onClick={() => void setSize((n) => n + 1)}>
          Show older shoots
        </Button>
      )}
    </Page>
  );
}

function ShootLine({ shoot }: { shoot: ShootDto }) {
  return (
    <Box
      component={Link}
      to={`/shoots/${shoot.id}/cull`}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: { xs: 1, lg: 2.5 },
        alignItems: 'center',
        py: 1,
        color: 'inherit',
        textDecoration: 'none',
        borderBottom: `1px solid ${GROUND.raised}`,
        '&:hover': { bgcolor: GROUND.raised },
      }}
    >
      <LeadStrip leads={shoot.leads} height={72} />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 640, fontSize: 16 }}>{shownName(shoot.title)}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {[mediumDay(shoot.date), shoot.client, shoot.place].filter(Boolean).join(' · ')}
        </Box>
        <Decided shoot={shoot} />
      </Box>
    </Box>
  );
}

function byMonth(shoots: readonly ShootDto[]): [string, ShootDto[]][] {
  const months = new Map<string, ShootDto[]>();
  for (const shoot of shoots) {
    const month = shoot.date.slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), shoot]);
  }
  return [...months].sort(([a], [b]) => b.localeCompare(a));
}
