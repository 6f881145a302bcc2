import { Box, TextField, Typography } from '@mui/material';
import { foldText, shownName } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { many, mediumDay, monthOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useShoots } from '../../data/live';
import { LeadStrip } from '../../parts/LeadStrip';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { YearLine } from '../../parts/YearLine';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { Decided } from '../desk/ShootRow';

type ShootDto = Api['ShootDto'];

/** All shoots, newest first, by month, each with a strip of leads; over them the archive's time line. */
export function ShootsScreen() {
  const { data: shoots, error } = useShoots();
  const [text, setText] = useState('');
  const found = useMemo(() => matching(shoots ?? [], text), [shoots, text]);
  const months = useMemo(() => byMonth(found), [found]);
  const frames = found.reduce((sum, shoot) => sum + shoot.frames, 0);
  const goTo = (month: string) => {
    const heading = document.getElementById(`month-${month}`);
    heading?.scrollIntoView({ block: 'start' });
    // The keys go on from there.
    heading?.querySelector<HTMLElement>('a')?.focus({ preventScroll: true });
  };
  return (
    <Page
      title="Shoots"
      lead={shoots && `${many(found.length, 'shoot')}, ${many(frames, 'frame')}`}
      actions={
        <TextField
          label="Title, client or place"
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setText('')}
          sx={{ width: 260 }}
        />
      }
    >
      <Problem error={error} />
      {!shoots && !error && <Loading what="the shoots" />}
      {shoots?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          Nothing is archived yet. <TextLink to="/">Take in a card from the Desk</TextLink>
        </Typography>
      )}
      {found.length > 0 && <YearLine shoots={found} onMonth={goTo} />}
      {shoots && shoots.length > 0 && months.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          None of {many(shoots.length, 'shoot')} has “{text}” in its title, client or place. Escape in the
          field shows all.
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
            aside={<Box sx={{ color: INK.faint }}>{many(list.length, 'shoot')}</Box>}
          >
            {list.map((shoot) => (
              <ShootLine key={shoot.id} shoot={shoot} />
            ))}
          </Section>
        </Box>
      ))}
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

/** Every word of the search must stand somewhere in title, client, place or date. */
function matching(shoots: readonly ShootDto[], text: string): ShootDto[] {
  const wanted = foldText(text.trim()).split(/\s+/).filter(Boolean);
  return shoots.filter((shoot) => {
    const said = foldText(`${shoot.title} ${shoot.client} ${shoot.place} ${shoot.date}`);
    return wanted.every((word) => said.includes(word));
  });
}

function byMonth(shoots: readonly ShootDto[]): [string, ShootDto[]][] {
  const months = new Map<string, ShootDto[]>();
  for (const shoot of shoots) {
    const month = shoot.date.slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), shoot]);
  }
  return [...months].sort(([a], [b]) => b.localeCompare(a));
}
