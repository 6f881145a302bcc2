import { Box, LinearProgress } from '@mui/material';
import { count, many } from '../data/format';
import type { Api } from '../data/http';
import { INK, STRIKE_TEXT } from '../theme/theme';
import { BESIDE_STEPS } from './lineWidths';

type Job = Api['JobDto'];

/** What jobs do, while they do it and when it is done; `{}` stands for what they work on. */
const WORDS: Record<Exclude<Job['kind'], 'move' | 'bin'> | NonNullable<Job['deed']>, [string, string]> = {
  intake: ['Copying {}', 'Took in {}'],
  handoff: ['Handing off {}', 'Handed off {}'],
  delivery: ['Making {}', 'Made {}'],
  send: ['Sending {}', 'Sent {}'],
  gallery: ['Making pictures: {}', 'Made pictures: {}'],
  adopt: ['Looking through {}', 'Looked through {}'],
  rebuild: ['Making the archive anew: {}', 'Made the archive anew: {}'],
  carry: ['Taking in shoots of {}', 'Took in shoots of {}'],
  copy: ['Making copies of {}', 'Made copies of {}'],
  verify: ['Verifying again {}', 'Verified again {}'],
  'first-reading': ['Reading whole for the first time: {}', 'Read whole for the first time: {}'],
  clear: ['Clearing {}', 'Cleared {}'],
  release: ['Taking off: {}', 'Taken off: {}'],
  'take-back': ['Taking back: {}', 'Taken back: {}'],
  return: ['Edits come back: {}', 'Edits that came back: {}'],
  derive: ['Copying frames of {}', 'Copied frames of {}'],
  split: ['Moving frames of {}', 'Moved frames of {}'],
  merge: ['Moving frames of {}', 'Moved frames of {}'],
  rename: ['Renaming frames of {}', 'Renamed frames of {}'],
  takeIn: ['Taking {} in', 'Took {} in'],
  arrange: ['Arranging frames of {}', 'Arranged frames of {}'],
  aside: ['Setting aside rejects of {}', 'Set aside rejects of {}'],
  back: ['Bringing back frames of {}', 'Brought back frames of {}'],
  bin: ['Binning frames of {}', 'Binned frames of {}'],
  forget: ['Forgetting frames of {}', 'Forgot frames of {}'],
  delete: ['Deleting frames of {}', 'Deleted frames of {}'],
  'bring-back': ['Bringing back frames of {}', 'Brought back frames of {}'],
  empty: ['Emptying the bin of {}', 'Emptied the bin of {}'],
};

export function jobWords(job: Job): string {
  const name = job.deed ?? (job.kind === 'move' || job.kind === 'bin' ? 'split' : job.kind);
  const [doing, done] = WORDS[name].map((words) => words.replace('{}', () => job.title)) as [string, string];
  switch (job.state) {
    case 'paused':
      return `${doing}: paused`;
    case 'waiting':
      return `${doing}: waiting`;
    case 'done':
      return done;
    case 'failed':
      return `${doing}: failed`;
    case 'cancelled':
      return `${doing}: stopped`;
    default:
      return doing;
  }
}

/** What a job counts: a frame moves with all its files, as one step. */
export const unitOf = (job: Api['JobDto']): string =>
  job.kind === 'rebuild'
    ? 'part'
    : job.kind === 'carry'
      ? 'shoot'
      : job.kind === 'adopt'
        ? 'folder'
        : ['move', 'bin', 'derive', 'take-back', 'delivery'].includes(job.kind)
          ? 'frame'
          : 'file';

/** How far a job is, the same figures wherever it is shown: those that are done, and beside them those that failed. */
export function jobCounts(job: Api['JobDto']): string {
  const failed = job.filesFailed > 0 ? `, ${count(job.filesFailed)} failed` : '';
  return `${count(job.filesDone)} of ${many(job.filesTotal, unitOf(job))}${failed}`;
}

/** The screen that shows a job's whole course. */
export function jobPlace(job: Api['JobDto']): string | null {
  if (job.kind === 'intake') return `/intake/job?job=${job.id}`;
  if (job.kind === 'bin') return '/bin';
  if (job.kind === 'adopt') return '/adopted';
  if (job.kind === 'carry') return `/carried/${job.id}`;
  const screen =
    job.kind === 'handoff' || job.kind === 'take-back' || job.kind === 'return'
      ? 'handoff'
      : ['delivery', 'send', 'gallery'].includes(job.kind)
        ? 'deliver'
        : 'files';
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
    // Beside the steps of a shoot it leaves these their room.
    <Box
      sx={{
        width: { xs: 120, md: 136 },
        [BESIDE_STEPS]: { width: 240 },
        fontStretch: '85%',
        textAlign: 'left',
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, color: INK.soft, lineHeight: 1.3, mb: 0.5 }}>
        <Box sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {jobWords(job)}
        </Box>
        <Box sx={{ whiteSpace: 'nowrap' }}>
          {count(job.filesDone)} of {count(job.filesTotal)}
          {job.filesFailed > 0 && (
            <Box component="span" sx={{ color: STRIKE_TEXT }}>
              {' '}
              {count(job.filesFailed)} failed
            </Box>
          )}
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
