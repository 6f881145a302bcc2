import { Box, Button, LinearProgress } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { bytes, count, many, momentOf } from '../data/format';
import { post, type Api } from '../data/http';
import { previewUrl } from '../data/frames';
import { isOpen, useJobs, useShoots, type JobStep } from '../data/live';
import { CAPTION, GROUND, INK, NOTE, STRIKE_TEXT } from '../theme/theme';
import { jobCounts, jobPlace, jobShare, jobWords, unitOf } from './JobSign';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { useGet } from '../data/useGet';

/** One job: how far it is, its brakes, and when it is over the report, which names each failed item. */
export function JobCard({ job, onLeave }: { job: Api['JobDto']; onLeave?: () => void }) {
  const [report, setReport] = useState(false);
  const open = isOpen(job);
  const { data: jobs } = useJobs();
  const { data: shoots } = useShoots();
  const lead = shoots?.find((shoot) => shoot.id === job.shootId)?.leads[0];
  // Two cards at once share the drives: one of them may be wanted sooner.
  const mayGoFirst =
    job.state === 'running' &&
    BULK.has(job.kind) &&
    jobs?.some((j) => j.id !== job.id && j.state === 'running' && BULK.has(j.kind) && j.behind !== job.title);
  const stopped = ['paused', 'waiting'].includes(job.state);
  // What is read for the first time has no good copy, and nothing to hold it against.
  const isVerifying = job.kind === 'verify' && job.deed === null;
  const { run: begin, error, again } = useAction((ask: () => Promise<unknown>) => ask());
  const told = job.filesFailed > 0 || (job.kind === 'clear' && !open && job.reason !== null);
  const act = (what: JobStep) => begin(() => post(`/jobs/${job.id}/${what}`));
  return (
    <Box
      component="article"
      aria-label={jobWords(job)}
      sx={{ py: 1, borderBottom: `1px solid ${GROUND.line}` }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
        {lead && (
          <img
            src={previewUrl(lead, 'thumb')}
            alt=""
            style={{ width: 54, height: 36, objectFit: 'cover', alignSelf: 'center' }}
          />
        )}
        <Box sx={{ flex: 1, minWidth: 0, fontWeight: 640 }}>{jobWords(job)}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft, whiteSpace: 'nowrap' }}>{numbers(job)}</Box>
      </Box>
      {open && (
        <LinearProgress
          variant="determinate"
          color="inherit"
          value={jobShare(job)}
          aria-label={jobWords(job)}
          sx={{ mt: 0.75, height: 4 }}
        />
      )}
      {open && job.behind && <Box sx={{ mt: 0.75, color: NOTE }}>Makes way for {job.behind}.</Box>}
      {open && job.trouble && <Box sx={{ mt: 0.75, color: STRIKE_TEXT }}>{shownName(job.trouble)}</Box>}
      {job.reason && (
        <Box sx={{ mt: 0.75, color: stopped ? INK.full : STRIKE_TEXT }}>{shownName(job.reason)}</Box>
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, mt: 0.5, ml: -1 }}>
        {open && !stopped && <Act onClick={() => act('pause')}>Pause</Act>}
        {open && stopped && <Act onClick={() => act('resume')}>Resume</Act>}
        {open && <Act onClick={() => act('cancel')}>Stop</Act>}
        {mayGoFirst && <Act onClick={() => act('first')}>This one first</Act>}
        {told && (
          <Act expanded={report} onClick={() => setReport(!report)}>
            {report
              ? 'Close the report'
              : job.filesFailed > 0
                ? `Report: ${many(job.filesFailed, unitOf(job))} failed`
                : 'Report: what stays'}
          </Act>
        )}
        {!open && isVerifying && job.filesFailed > 0 && (
          <Act
            onClick={() => begin(() => post('/copies/missing', job.shootId ? { shootId: job.shootId } : {}))}
          >
            Repair from good copies
          </Act>
        )}
        {!open && job.filesFailed > 0 && (
          <Act onClick={() => act('retry')}>
            {isVerifying ? 'Verify these again' : 'Try the failed again'}
          </Act>
        )}
        {!open && job.kind === 'move' && job.filesDone > 0 && (
          <Act onClick={() => begin(() => post(`/moves/${job.id}/undo`))}>Undo</Act>
        )}
        {!open && ['bin', 'forget', 'derive'].includes(job.deed ?? job.kind) && job.filesDone > 0 && (
          <Act onClick={() => begin(() => post(`/bin/jobs/${job.id}/undo`))}>Undo</Act>
        )}
        {job.state === 'done' && job.filesFailed === 0 && job.reason && job.kind !== 'clear' && (
          <Act onClick={() => act('retry')}>Try again</Act>
        )}
        {needsAttention(job) && !open && <Act onClick={() => act('seen')}>Put away</Act>}
        {jobPlace(job) && (
          <Button
            component={Link}
            to={jobPlace(job)!}
            onClick={onLeave}
            size="small"
            color="inherit"
            sx={{ px: 1, minWidth: 0 }}
          >
            Open
          </Button>
        )}
        {!open && job.finishedAt && (
          <Box sx={{ ...CAPTION, color: INK.faint, ml: 'auto' }}>{momentOf(job.finishedAt)}</Box>
        )}
      </Box>
      {report && <Failures job={job} />}
      <Problem error={error} again={again} />
    </Box>
  );
}

/** Whether a job waits for somebody: outside, or to see how it ended. */
export const needsAttention = (job: Api['JobDto']): boolean =>
  !job.seen &&
  (job.state === 'waiting' ||
    job.state === 'failed' ||
    (job.state === 'done' && (job.filesFailed > 0 || job.reason !== null)));

/** Jobs that move many bytes, and make way for each other. */
const BULK = new Set<Api['JobDto']['kind']>(['intake', 'copy', 'verify', 'clear', 'handoff']);

function Act({ children, onClick, expanded }: { children: string; onClick: () => void; expanded?: boolean }) {
  return (
    <Button
      size="small"
      color="inherit"
      aria-expanded={expanded}
      onClick={onClick}
      sx={{ px: 1, minWidth: 0 }}
    >
      {children}
    </Button>
  );
}

/** Files shown of a report before the rest is only counted: a drive that ran full fails thousands for one reason. */
const SHOWN = 200;

function Failures({ job }: { job: Api['JobDto'] }) {
  // Asked anew when more have failed.
  const { data, error } = useGet(`/jobs/${job.id}?failed=${job.filesFailed}`);
  return (
    <Box
      component="ul"
      aria-label="Failed files"
      tabIndex={0}
      sx={{ m: 0, mt: 0.5, p: 0, listStyle: 'none', maxHeight: 260, overflow: 'auto', bgcolor: GROUND.deep }}
    >
      {data?.failures.slice(0, SHOWN).map(({ file, reason }) => (
        <Box component="li" key={file} sx={{ px: 1.25, py: 0.75, borderBottom: `1px solid ${GROUND.base}` }}>
          <Box sx={{ ...CAPTION, color: INK.full }}>{shownName(file)}</Box>
          <Box sx={{ color: INK.soft }}>{shownName(reason)}</Box>
        </Box>
      ))}
      {data && data.failures.length > SHOWN && (
        <Box component="li" sx={{ px: 1.25, py: 0.75, color: INK.soft }}>
          and {count(data.failures.length - SHOWN)} more
        </Box>
      )}
      <Problem error={error} />
    </Box>
  );
}

function numbers(job: Api['JobDto']): string {
  const files = jobCounts(job);
  return job.bytesTotal > 0 && isOpen(job)
    ? `${files} · ${bytes(job.bytesDone)} of ${bytes(job.bytesTotal)}`
    : files;
}
