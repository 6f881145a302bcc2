import { Box, Button } from '@mui/material';
import { shownName } from '@arkiv/core';
import { Link } from 'react-router';
import { count, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { stagesWords, useStages } from '../../data/stages';
import { LeadStrip } from '../../parts/LeadStrip';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, MARKER, STRIKE, STRIKE_TEXT } from '../../theme/theme';
import { nextStep } from './nextStep';

/** A shoot with what is decided in it, and the one step that comes next. */
export function ShootRow({ shoot, required }: { shoot: Api['ShootDto']; required: number }) {
  const next = nextStep(shoot);
  const copy = useAction(() => post('/copies/missing', { shootId: shoot.id }));
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: { xs: 1, lg: 2 },
        py: 0.75,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <LeadStrip leads={shoot.leads.slice(0, 4)} height={52} places={4} />
      <Box sx={{ flex: '1 1 200px', minWidth: 0 }}>
        <Box sx={{ fontWeight: 640 }}>{shownName(shoot.title)}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {[mediumDay(shoot.date), shoot.client, shoot.place].filter(Boolean).join(' · ')}
        </Box>
        <Decided shoot={shoot} />
        {shoot.missingCopies > 0 && (
          <Box sx={{ color: STRIKE_TEXT }}>
            {many(shoot.missingCopies, 'file has', 'files have')} fewer than {required} verified copies.
            <Button
              size="small"
              color="inherit"
              sx={{ px: 1, py: 0, ml: 1, minWidth: 0 }}
              aria-label={`Copy now: what is missing of ${shoot.title}`}
              onClick={() => copy.run()}
            >
              Copy now
            </Button>
            <Problem error={copy.error} again={copy.again} />
          </Box>
        )}
      </Box>
      <Button
        component={Link}
        to={`/shoots/${shoot.id}/${next.to}`}
        aria-label={`${next.words}: ${shoot.title}`}
        variant={next.step === 'delivered' ? 'text' : 'outlined'}
        color="inherit"
        sx={{ whiteSpace: 'nowrap' }}
      >
        {next.words}
      </Button>
    </Box>
  );
}

/** How much of a shoot is decided: kept, rejected, left; as lengths and as numbers. */
export function Decided({
  shoot,
}: {
  shoot: Pick<Api['ShootDto'], 'frames' | 'keepers' | 'rejects'> & { stages?: readonly number[] };
}) {
  const staged = stagesWords(shoot.stages ?? [], useStages());
  const left = shoot.frames - shoot.keepers - shoot.rejects;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <Box aria-hidden sx={{ display: 'flex', gap: '1px', width: 120, height: 4, bgcolor: GROUND.line }}>
        <Box sx={{ flex: shoot.keepers, bgcolor: MARKER }} />
        <Box sx={{ flex: left, bgcolor: 'transparent' }} />
        <Box sx={{ flex: shoot.rejects, bgcolor: STRIKE }} />
      </Box>
      <Box sx={{ ...CAPTION, color: INK.soft }}>
        {many(shoot.frames, 'frame')} · {many(shoot.keepers, 'keeper')} · {many(shoot.rejects, 'reject')}
        {left > 0 && ` · ${count(left)} left`}
        {staged && <Box>{staged}</Box>}
      </Box>
    </Box>
  );
}
