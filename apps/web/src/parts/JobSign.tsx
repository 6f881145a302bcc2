import { Box, LinearProgress } from '@mui/material';
import { count } from '../data/format';
import type { Api } from '../data/http';
import { INK } from '../theme/theme';

const DOING = {
  intake: 'Copying',
  handoff: 'Handing off',
  delivery: 'Making',
  copy: 'Making copies of',
  verify: 'Reading again',
  clear: 'Clearing',
  move: 'Moving frames of',
} as const;
const DONE = {
  intake: 'Took in',
  handoff: 'Handed off',
  delivery: 'Made',
  copy: 'Made copies of',
  verify: 'Read again',
  clear: 'Cleared',
  move: 'Moved frames of',
} as const;

export function jobWords(job: Api['JobDto']): string {
  const doing = `${DOING[job.kind]} ${job.title}`;
  switch (job.state) {
    case 'paused':
      return `${doing}: paused`;
    case 'waiting':
      return `${doing}: waiting`;
    case 'done':
      return `${DONE[job.kind]} ${job.title}`;
    case 'failed':
      return `${doing}: broke off`;
    case 'cancelled':
      return `${doing}: stopped`;
    default:
      return doing;
  }
}

/** The screen that shows a job's whole course. */
export function jobPlace(job: Api['JobDto']): string | null {
  if (job.kind === 'intake') return `/intake/job?job=${job.id}`;
  const screen = job.kind === 'handoff' ? 'handoff' : job.kind === 'delivery' ? 'deliver' : 'files';
  return job.shootId ? `/shoots/${job.shootId}/${screen}` : null;
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
    <Box sx={{ width: 240, fontStretch: '85%', textAlign: 'left' }}>
      <Box sx={{ display: 'flex', gap: 1, color: INK.soft, lineHeight: 1.3, mb: 0.5 }}>
        <Box sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {jobWords(job)}
        </Box>
        <Box sx={{ whiteSpace: 'nowrap' }}>
          {count(job.filesDone + job.filesFailed)} of {count(job.filesTotal)}
          {more > 0 && ` +${more}`}
        </Box>
      </Box>
      {/* The numbers beside it say the same. */}
      <LinearProgress
        aria-hidden
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        sx={{ height: 3 }}
      />
    </Box>
  );
}
