import { Box, ButtonBase, Popover, Typography } from '@mui/material';
import { memo, useRef, useState } from 'react';
import { many } from '../data/format';
import { isOpen, useJobs } from '../data/live';
import { GROUND, INK, STRIKE_TEXT } from '../theme/theme';
import { JobCard, needsAttention } from './JobCard';
import { JobSign } from './JobSign';

/** Jobs that are over and still listed: the last day's work of a busy studio. */
const LATEST = 12;

/** The job line's right end: what runs, what waits for someone, and behind it every job with its report. */
export const JobsPanel = memo(function JobsPanel() {
  const { data: jobs } = useJobs();
  const [shown, setShown] = useState(false);
  const anchor = useRef<HTMLButtonElement>(null);
  if (!jobs || jobs.length === 0) return null;
  const open = jobs.filter(isOpen);
  const over = jobs.filter((job) => !isOpen(job)).slice(0, LATEST);
  const troubled = jobs.filter(needsAttention).length;
  const running = open.find((job) => job.state === 'running') ?? open[0];
  return (
    <>
      <ButtonBase
        ref={anchor}
        aria-haspopup="dialog"
        aria-expanded={shown}
        onClick={() => setShown(true)}
        sx={{
          height: 48,
          px: 1.5,
          font: 'inherit',
          color: INK.soft,
          gap: 1.5,
          flex: 'none',
          '&:hover': { bgcolor: GROUND.base, color: INK.full },
        }}
      >
        {troubled > 0 && (
          <Box component="span" sx={{ color: STRIKE_TEXT, fontWeight: 620, whiteSpace: 'nowrap' }}>
            {many(troubled, 'job needs attention', 'jobs need attention')}
          </Box>
        )}
        {running ? <JobSign job={running} more={open.length - 1} /> : troubled === 0 && 'Jobs'}
      </ButtonBase>
      <Popover
        open={shown}
        anchorEl={anchor.current}
        onClose={() => setShown(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: {
            role: 'dialog',
            'aria-label': 'Jobs',
            sx: {
              width: 560,
              maxHeight: 'min(640px, 80vh)',
              p: 2,
              borderRadius: 0,
              bgcolor: GROUND.base,
              border: `1px solid ${GROUND.line}`,
            },
          },
        }}
      >
        {open.length > 0 && (
          <>
            <Typography variant="h2">Running</Typography>
            {open.map((job) => (
              <JobCard key={job.id} job={job} onLeave={() => setShown(false)} />
            ))}
          </>
        )}
        {over.length > 0 && (
          <>
            <Typography variant="h2" sx={{ mt: open.length > 0 ? 2.5 : 0 }}>
              Finished
            </Typography>
            {over.map((job) => (
              <JobCard key={job.id} job={job} onLeave={() => setShown(false)} />
            ))}
          </>
        )}
      </Popover>
    </>
  );
});
