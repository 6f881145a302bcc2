import { Box, TextField, Typography } from '@mui/material';
import { foldText } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { many, mediumDay, monthOf } from '../../data/format';
import type { Api } from '../../data/http';
import { useShoots } from '../../data/live';
import { LeadStrip } from '../../parts/LeadStrip';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** All shoots, newest first, by month, each with a strip of leads. */
export function ShootsScreen() {
  const { data: shoots, error } = useShoots();
  const [text, setText] = useState('');
  const months = useMemo(() => byMonth(shoots ?? [], text), [shoots, text]);
  return (
    <Page
      title="Shoots"
      lead={shoots && many(shoots.length, 'shoot')}
      actions={
        <TextField
          label="Title, client or place"
          value={text}
          onChange={(e) => setText(e.target.value)}
          sx={{ width: 260 }}
        />
      }
    >
      <Problem error={error} />
      {shoots?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          Nothing is archived yet. <TextLink to="/">Take in a card from the Desk</TextLink>
        </Typography>
      )}
      {shoots && shoots.length > 0 && months.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          None of {many(shoots.length, 'shoot')} has “{text}” in its title, client or place.
        </Typography>
      )}
      {months.map(([month, list]) => (
        <Section
          key={month}
          title={month}
          aside={<Box sx={{ color: INK.faint }}>{many(list.length, 'shoot')}</Box>}
        >
          {list.map((shoot) => (
            <Box
              key={shoot.id}
              component={Link}
              to={`/shoots/${shoot.id}/cull`}
              sx={{
                display: 'flex',
                gap: 2.5,
                alignItems: 'center',
                py: 1,
                color: 'inherit',
                textDecoration: 'none',
                borderBottom: `1px solid ${GROUND.raised}`,
                '&:hover': { bgcolor: GROUND.raised },
              }}
            >
              <LeadStrip leads={shoot.leads} height={72} />
              <Box>
                <Box sx={{ fontWeight: 640, fontSize: 16 }}>{shoot.title}</Box>
                <Box sx={{ color: INK.soft }}>
                  {[mediumDay(shoot.date), shoot.client, shoot.place].filter(Boolean).join(' · ')}
                </Box>
                <Box sx={{ ...CAPTION, color: INK.soft }}>
                  {many(shoot.frames, 'frame')} · {many(shoot.keepers, 'keeper')} ·{' '}
                  {many(shoot.rejects, 'reject')}
                </Box>
              </Box>
            </Box>
          ))}
        </Section>
      ))}
    </Page>
  );
}

function byMonth(shoots: readonly Api['ShootDto'][], text: string): [string, Api['ShootDto'][]][] {
  const wanted = foldText(text.trim());
  const months = new Map<string, Api['ShootDto'][]>();
  for (const shoot of shoots) {
    if (wanted && !foldText(`${shoot.title} ${shoot.client} ${shoot.place}`).includes(wanted)) continue;
    const month = monthOf(shoot.date);
    months.set(month, [...(months.get(month) ?? []), shoot]);
  }
  return [...months];
}
