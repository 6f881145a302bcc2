import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { bytes, count, duration, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import {
  useClearance,
  useJobs,
  useProvenFrames,
  useReaders,
  useShoot,
  useVolumes,
  type JobStep,
} from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK, NOTE, STRIKE_TEXT } from '../../theme/theme';
import { ClearCard } from '../../parts/ClearCard';
import { FrameThumbs } from '../../parts/FrameThumbs';
import { jobCounts, jobShare } from '../../parts/JobSign';
import { driveWords } from './planWords';
import { useGet } from '../../data/useGet';

/** Copying, and what came of it: progress, what became of each file, the receipt, and whether the card may be cleared. */
export function CopyingView({ jobId }: { jobId: string }) {
  const { data: jobs } = useJobs();
  const { data: first, error } = useGet(`/jobs/${jobId}`);
  const { data: report } = useGet(`/intakes/${jobId}`);
  const job = jobs?.find((j) => j.id === jobId) ?? first?.job;
  const { data: shoot } = useShoot(job?.shootId ?? undefined);
  if (!job) {
    return <Page title="Intake">{error ? <Problem error={error} /> : <Loading what="the intake" />}</Page>;
  }
  const done = job.state === 'done';
  const stopped = job.state === 'cancelled' || job.state === 'failed';
  const nothingNew =
    done &&
    report !== undefined &&
    report.files.length > 0 &&
    report.files.every((f) => f.fate === 'already-here');
  return (
    <Page
      title={
        nothingNew
          ? 'Nothing new on this card'
          : done
            ? `${job.title} is taken in`
            : stopped
              ? `Taking in ${job.title}: ${job.state === 'failed' ? 'failed' : 'stopped'}`
              : `Taking in ${job.title}`
      }
      lead={
        <>
          {!done && !stopped && 'Culling can begin: frames appear there as soon as their copies are proven.'}
          {stopped &&
            (shoot
              ? 'What was proven until then stays. The card is as it was.'
              : 'Nothing was copied, and no shoot was made. The card is as it was.')}
          {report && report.together.length > 0 && <Together others={report.together} />}
        </>
      }
      actions={
        shoot && (
          <Button
            component={Link}
            to={`/shoots/${shoot.id}/cull`}
            variant={done ? 'contained' : 'outlined'}
            color={done ? 'primary' : 'inherit'}
          >
            Cull {many(shoot.frames, 'frame')}
          </Button>
        )
      }
    >
      {!done && !stopped && <Progress job={job} />}
      {!done && !stopped && report && <Targets job={job} targets={report.targets} />}
      {job.reason && <Problem error={new Error(job.reason)} />}
      {done && report && <Outcome job={job} report={report} />}
      {done && report && <AfterCopying report={report} />}
      <Proven job={job} />
      {report && <Fates report={report} done={done} />}
    </Page>
  );
}

/** The other shoots that the card was split into. */
function Together({ others }: { others: Api['TogetherDto'][] }) {
  return (
    <>
      {' '}
      From the same card:{' '}
      {others.map(({ jobId, title }, i) => (
        <Box component="span" key={jobId}>
          {i > 0 && ' and '}
          <TextLink to={`/intake/job?job=${jobId}`}>{title}</TextLink>
        </Box>
      ))}
      .
    </>
  );
}

/** Where the files go, and how each drive is while they do. */
function Targets({ job, targets }: { job: Api['JobDto']; targets: readonly string[] }) {
  const { data: volumes } = useVolumes();
  return (
    <Section title="Copied to">
      {targets.map((id) => {
        const volume = volumes?.find((v) => v.id === id);
        if (!volume) return null;
        const fit = volume.online && !volume.readOnly && !volume.nearlyFull;
        return (
          <Box key={id} sx={{ color: fit ? INK.full : STRIKE_TEXT }}>
            {volume.name} · {driveWords(volume)}
          </Box>
        );
      })}
      {job.filesFailed > 0 && (
        <Problem
          error={
            new Error(
              `${many(job.filesFailed, 'file')} could not be copied everywhere so far. ${job.trouble ?? ''} The others go on; at the end these can be tried again.`,
            )
          }
        />
      )}
    </Section>
  );
}

/** What is proven, as pictures: the newest first while copying goes on. */
function Proven({ job }: { job: Api['JobDto'] }) {
  const { data } = useProvenFrames(job.id);
  if (!data || data.frames.length === 0) return null;
  const done = job.state === 'done';
  return (
    <Section
      title={done ? 'Frames taken in' : 'Proven so far'}
      aside={
        <Box sx={{ color: INK.faint }}>
          {many(data.total, 'frame')}
          {data.total > data.frames.length && `, the newest ${count(data.frames.length)} shown`}
        </Box>
      }
    >
      <FrameThumbs frames={done ? [...data.frames].reverse() : data.frames} />
    </Section>
  );
}

function Progress({ job }: { job: Api['JobDto'] }) {
  const speed = useSpeed(job);
  const { run: act, error, again } = useAction((what: JobStep) => post(`/jobs/${job.id}/${what}`));
  const running = ['queued', 'running'].includes(job.state);
  return (
    <Section
      title={
        job.state === 'paused' ? 'Paused' : job.state === 'waiting' ? 'Waiting' : 'Copying and reading back'
      }
    >
      <LinearProgress
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        aria-label="Progress of the copying"
        sx={{ height: 6 }}
      />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, mt: 1 }}>
        <Box>{jobCounts(job)}</Box>
        <Box>
          {bytes(job.bytesDone)} of {bytes(job.bytesTotal)}
        </Box>
        {running && speed > 0 && (
          <Box sx={{ color: INK.soft }}>
            {bytes(speed)} a second · {duration((job.bytesTotal - job.bytesDone) / speed)} left
          </Box>
        )}
        <Box sx={{ flex: 1 }} />
        {running && job.behind && (
          <Box sx={{ color: NOTE }}>
            makes way for {job.behind}{' '}
            <Button color="inherit" size="small" onClick={() => act('first')}>
              This one first
            </Button>
          </Box>
        )}
        {running && (
          <Button color="inherit" onClick={() => act('pause')}>
            Pause
          </Button>
        )}
        {['paused', 'waiting'].includes(job.state) && (
          <Button variant="outlined" color="inherit" onClick={() => act('resume')}>
            Resume
          </Button>
        )}
        {(running || ['paused', 'waiting'].includes(job.state)) && (
          <Button color="inherit" onClick={() => act('cancel')}>
            Stop
          </Button>
        )}
      </Box>
      <Problem error={error} again={again} />
    </Section>
  );
}

/** Bytes a second since the job came into view. */
function useSpeed(job: Api['JobDto']): number {
  const start = useRef<{ at: number; bytes: number } | null>(null);
  const [speed, setSpeed] = useState(0);
  useEffect(() => {
    const now = performance.now();
    start.current ??= { at: now, bytes: job.bytesDone };
    const seconds = (now - start.current.at) / 1000;
    if (seconds > 0.5) setSpeed((job.bytesDone - start.current.bytes) / seconds);
  }, [job.bytesDone]);
  return speed;
}

function Outcome({ job, report }: { job: Api['JobDto']; report: Api['IntakeReportDto'] }) {
  const { run: retry, error, again } = useAction(() => post(`/jobs/${job.id}/retry`));
  const { data: volumes } = useVolumes();
  const names = report.targets.map((id) => volumes?.find((v) => v.id === id)?.name ?? 'a drive');
  const copiedBytes = report.files.filter((f) => f.fate === 'copied').reduce((sum, f) => sum + f.size, 0);
  const of = (fate: string) => report.files.filter((f) => f.fate === fate).length;
  if (of('already-here') === report.files.length) {
    return (
      <Section title="Receipt">
        <Typography>
          {report.files.length === 1 ? 'Its one file' : `Each of its ${report.files.length} files`} had been
          archived before, with the same content. Nothing was copied, and no new shoot was made. The list
          below says where the files are.
        </Typography>
      </Section>
    );
  }
  const failed = of('failed') + of('partly') + of('todo');
  return (
    <Section title="Receipt">
      <Typography>
        {many(of('copied'), 'file')} copied to {names.join(' and ')}, read back and identical,{' '}
        {bytes(copiedBytes)} in all.
        {of('already-here') > 0 &&
          ` ${many(of('already-here'), 'file is', 'files are')} identical with what is archived, and ${of('already-here') === 1 ? 'was' : 'were'} not copied again; the list below says with which.`}
      </Typography>
      {failed > 0 && (
        <Box sx={{ mt: 1, display: 'flex', gap: 2, alignItems: 'center' }}>
          <Box sx={{ color: STRIKE_TEXT }}>
            {many(failed, 'file')} could not be copied everywhere; the list below says why.
          </Box>
          <Button variant="outlined" color="inherit" onClick={() => retry()}>
            Try these again
          </Button>
        </Box>
      )}
      <Problem error={error} again={again} />
      {report.receipts.map((path) => (
        <Box key={path} sx={{ ...CAPTION, color: INK.soft, mt: 0.5 }}>
          {path} · checked by “sha256sum -c” in the shoot’s folder
        </Box>
      ))}
    </Section>
  );
}

function AfterCopying({ report }: { report: Api['IntakeReportDto'] }) {
  const { data: readers } = useReaders();
  const reader = readers?.find((r) => r.id === report.readerId);
  const here = reader?.card === report.card;
  const { data: clearance } = useClearance(report.readerId, here ? report.card : null);
  const { run: eject, error, again } = useAction(() => post(`/readers/${report.readerId}/eject`));
  return (
    <Section title="The card">
      {!here && (
        <Typography sx={{ color: 'text.secondary' }}>
          “{report.card}” is not in the reader any more.
        </Typography>
      )}
      {here && clearance && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center' }}>
          <Box sx={{ flex: 1 }}>
            <Box sx={{ fontWeight: 680, color: clearance.safe ? NOTE : STRIKE_TEXT }}>
              {clearance.safe ? 'Safe to clear' : 'Not safe to clear'}
            </Box>
            <Box sx={{ color: INK.soft }}>
              {clearance.safe
                ? `Each of its ${many(clearance.total, 'file')} has ${clearance.required} verified copies on different drives.`
                : `${clearance.proven} of ${many(clearance.total, 'file')} have ${clearance.required} verified copies on different drives.`}
            </Box>
            {clearance.reasons.slice(0, 5).map((reason) => (
              <Box key={reason} sx={{ color: INK.soft }}>
                {shownName(reason)}
              </Box>
            ))}
          </Box>
          {clearance.proven > 0 && (
            <ClearCard
              readerId={report.readerId}
              card={report.card}
              proven={clearance.proven}
              total={clearance.total}
            />
          )}
          <Button variant="outlined" color="inherit" onClick={() => eject()}>
            Eject {report.card}
          </Button>
        </Box>
      )}
      <Problem error={error} again={again} />
    </Section>
  );
}

const FATE_WORDS: Record<string, string> = {
  todo: 'to do',
  copied: 'verified',
  partly: 'partly',
  'already-here': 'already archived',
  failed: 'failed',
  'left-out': 'left out',
};
/** Rows drawn at once while copying: failures first, then the newest. The receipt file lists all. */
const SHOWN = 400;

function Fates({ report, done }: { report: Api['IntakeReportDto']; done: boolean }) {
  const files = useMemo(() => {
    const rank = (f: Api['IntakeFileDto']) => (f.reason ? 0 : f.fate === 'todo' ? 2 : 1);
    return [...report.files].sort((a, b) => rank(a) - rank(b)).slice(0, SHOWN);
  }, [report]);
  if (!done && files.every((f) => f.reason === null)) return null;
  return (
    <Section
      title="What became of each file"
      aside={<Box sx={{ color: INK.faint }}>{many(report.files.length, 'file')}</Box>}
    >
      <Box sx={{ ...CAPTION, fontSize: 12.5 }}>
        {files.map((file) => (
          <Box
            key={file.from}
            sx={{
              display: 'grid',
              gridTemplateColumns: '90px minmax(0, 1fr) minmax(0, 1.4fr) 80px',
              gap: 2,
              py: 0.4,
              borderBottom: `1px solid ${GROUND.raised}`,
            }}
          >
            <Box sx={{ color: file.reason ? STRIKE_TEXT : INK.full }}>{FATE_WORDS[file.fate]}</Box>
            <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{shownName(file.from)}</Box>
            <Box sx={{ color: INK.soft, overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {shownName(
                file.reason ??
                  (file.fate === 'already-here'
                    ? `is ${file.to}`
                    : `→ ${file.to.slice(file.to.lastIndexOf('/') + 1)}`),
              )}
            </Box>
            <Box sx={{ color: INK.faint, textAlign: 'right' }} title={file.sha256 ?? undefined}>
              {file.sha256?.slice(0, 8)}
            </Box>
          </Box>
        ))}
      </Box>
    </Section>
  );
}
