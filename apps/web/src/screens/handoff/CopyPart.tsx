import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes, many, momentOf } from '../../data/format';
import { post } from '../../data/http';
import { isOpen, useJobs, useVolumes } from '../../data/live';
import { useGet } from '../../data/useGet';
import { JobRunning } from '../../parts/JobRunning';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK, STRIKE_TEXT } from '../../theme/theme';

/** The keepers' originals with their sidecars, copied to a selects folder: said before, proven after. */
export function CopyPart({ shootId }: { shootId: string }) {
  const { data: volumes } = useVolumes();
  const { data: jobs } = useJobs();
  const [chosen, setChosen] = useState('');
  const online = volumes?.filter((v) => v.online) ?? [];
  const volumeId = chosen || (online.find((v) => v.role === 'edit') ?? online[0])?.id || '';
  const running = jobs?.find((j) => j.shootId === shootId && j.kind === 'handoff' && isOpen(j));
  return (
    <Section title="Copies for editing">
      <TextField
        select
        slotProps={{ select: { native: true } }}
        label="Copy to"
        value={volumeId}
        onChange={(e) => setChosen(e.target.value)}
        fullWidth
        sx={{ mb: 2 }}
      >
        {volumes?.map((v) => (
          <option key={v.id} value={v.id} disabled={!v.online}>
            {v.name} {v.online ? `· ${bytes(v.free ?? 0)} free` : '· not connected'}
          </option>
        ))}
      </TextField>
      {volumeId && !running && <Plan shootId={shootId} volumeId={volumeId} />}
      {running && <JobRunning job={running} />}
    </Section>
  );
}

/** What went to editing so far. */
export function PastPart({ shootId }: { shootId: string }) {
  const { data: past, error } = useGet(`/shoots/${shootId}/handoffs`);
  return (
    <Section title="Handed off">
      <Problem error={error} />
      {!past && !error && <Loading what="what was handed off" />}
      {past?.length === 0 && <Typography sx={{ color: 'text.secondary' }}>Nothing yet.</Typography>}
      {past?.map(({ jobId, at, result }) => (
        <Box key={jobId} sx={{ py: 0.75 }}>
          <Box>
            {momentOf(at)} · {many(result.frames, 'keeper')}, {many(result.files, 'file')},{' '}
            {bytes(result.bytes)} to {result.volume}:{' '}
            {result.failed === 0 ? (
              `all ${result.verified} verified`
            ) : (
              <Box component="span" sx={{ color: STRIKE_TEXT }}>
                {result.verified} verified, {result.failed} failed
              </Box>
            )}
          </Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
            {result.folders.join(' · ')}
          </Box>
          {result.failed > 0 && <Failures jobId={jobId} />}
        </Box>
      ))}
    </Section>
  );
}

function Plan({ shootId, volumeId }: { shootId: string; volumeId: string }) {
  const { data: plan, error: failure } = useGet(`/shoots/${shootId}/handoffs/plan?volume=${volumeId}`);
  const {
    run: start,
    busy: starting,
    error,
    again,
  } = useAction(() => post(`/shoots/${shootId}/handoffs`, { volumeId }));
  if (!plan) return failure ? <Problem error={failure} /> : <Loading what="the plan" />;
  if (plan.frames === 0) {
    return <Typography sx={{ color: INK.soft }}>There is no keeper to copy.</Typography>;
  }
  return (
    <>
      <Typography sx={{ mb: 2 }}>
        {many(plan.frames, 'keeper')}, {many(plan.files, 'file')}, {bytes(plan.bytes)} will be copied to{' '}
        <b>
          {plan.volume} / {plan.folders.join(', ')}
        </b>
        . Nothing is moved. Files that lie there already are left as they are; sidecars are brought up to
        date.
      </Typography>
      <Button variant="contained" disabled={starting || !plan.online} onClick={() => start()}>
        Copy {many(plan.frames, 'keeper')} to {plan.volume}
      </Button>
      <Problem error={error} again={again} />
    </>
  );
}

function Failures({ jobId }: { jobId: string }) {
  const { data } = useGet(`/jobs/${jobId}`);
  const { run: retry, error, again } = useAction(() => post(`/jobs/${jobId}/retry`));
  return (
    <>
      {data?.failures.map((f) => (
        <Problem key={f.file} error={new Error(f.reason)} />
      ))}
      <Button size="small" variant="outlined" color="inherit" onClick={() => retry()}>
        Try these again
      </Button>
      <Problem error={error} again={again} />
    </>
  );
}
