import { Box, LinearProgress } from '@mui/material';
import type { Api } from '../data/http';
import { INK } from '../theme/theme';

const DOING = { intake: 'Copying', handoff: 'Handing off', delivery: 'Making' } as const;

export function jobWords(job: Api['JobDto']): string {
  const doing = `${DOING[job.kind]} ${job.title}`;
  if (job.state === 'paused') return `${doing}: paused`;
  if (job.state === 'waiting') return `${doing}: waiting`;
  return doing;
}

export const jobShare = (job: Api['JobDto']): number =>
  job.bytesTotal > 0
    ? (100 * job.bytesDone) / job.bytesTotal
    : job.filesTotal > 0
      ? (100 * (job.filesDone + job.filesFailed)) / job.filesTotal
      : 0;

/** A running job in the job line. */
export function JobSign({ job, more }: { job: Api['JobDto']; more: number }) {
  return (
    <Box sx={{ width: 260, fontStretch: '85%' }}>
      <Box sx={{ display: 'flex', gap: 1, color: INK.soft, lineHeight: 1.3, mb: 0.5 }}>
        <Box sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {jobWords(job)}
        </Box>
        <Box>
          {job.filesDone + job.filesFailed} of {job.filesTotal}
          {more > 0 && ` +${more}`}
        </Box>
      </Box>
      <LinearProgress
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        aria-label={jobWords(job)}
        sx={{ height: 3 }}
      />
    </Box>
  );
}
