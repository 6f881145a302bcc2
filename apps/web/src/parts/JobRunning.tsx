import { Box, Button, LinearProgress } from '@mui/material';
import { count, many } from '../data/format';
import { post, type Api } from '../data/http';
import { jobShare, jobWords } from './JobSign';
import { Problem } from './Problem';

/** A job under way on the screen it belongs to, with its brakes. */
export function JobRunning({ job }: { job: Api['JobDto'] }) {
  const act = (what: string) => void post(`/jobs/${job.id}/${what}`);
  const stopped = ['paused', 'waiting'].includes(job.state);
  return (
    <Box sx={{ maxWidth: 640 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Box sx={{ flex: 1 }}>
          {jobWords(job)} · {count(job.filesDone)} of {many(job.filesTotal, 'file')}
        </Box>
        <Button color="inherit" onClick={() => act(stopped ? 'resume' : 'pause')}>
          {stopped ? 'Carry on' : 'Pause'}
        </Button>
        <Button color="inherit" onClick={() => act('cancel')}>
          Stop here
        </Button>
      </Box>
      <LinearProgress
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        aria-label={jobWords(job)}
      />
      {job.reason && <Problem error={new Error(job.reason)} />}
    </Box>
  );
}
