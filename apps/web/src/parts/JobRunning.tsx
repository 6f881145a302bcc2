import { Box, Button, LinearProgress } from '@mui/material';
import { post, type Api } from '../data/http';
import type { JobStep } from '../data/live';
import { jobCounts, jobShare, jobWords } from './JobSign';
import { Problem } from './Problem';
import { useAction } from './useAction';

/** A job under way on the screen it belongs to, with its brakes. */
export function JobRunning({ job }: { job: Api['JobDto'] }) {
  const { run: act, error, again } = useAction((what: JobStep) => post(`/jobs/${job.id}/${what}`));
  const stopped = ['paused', 'waiting'].includes(job.state);
  return (
    <Box sx={{ maxWidth: 640 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Box sx={{ flex: 1 }}>
          {jobWords(job)} · {jobCounts(job)}
        </Box>
        <Button color="inherit" onClick={() => act(stopped ? 'resume' : 'pause')}>
          {stopped ? 'Resume' : 'Pause'}
        </Button>
        <Button color="inherit" onClick={() => act('cancel')}>
          Stop
        </Button>
      </Box>
      <LinearProgress
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        aria-label={jobWords(job)}
      />
      {job.reason && <Problem error={new Error(job.reason)} />}
      {job.trouble && <Problem error={new Error(job.trouble)} />}
      <Problem error={error} again={again} />
    </Box>
  );
}
