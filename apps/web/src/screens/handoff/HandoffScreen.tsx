import { Box, Button, TextField, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useState } from 'react';
import { useParams } from 'react-router';
import { bytes, many, momentOf } from '../../data/format';
import { post } from '../../data/http';
import { isOpen, useJobs, useShoot, useVolumes } from '../../data/live';
import { JobRunning } from '../../parts/JobRunning';
import { KeeperThumbs } from '../../parts/KeeperThumbs';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, INK, STRIKE_TEXT } from '../../theme/theme';
import { useGet } from '../../data/useGet';

/** The keepers' originals with their sidecars, copied to a selects folder: said before, proven after. */
export function HandoffScreen() {
  const { id } = useParams();
  const { data: shoot, error } = useShoot(id);
  const { data: volumes } = useVolumes();
  const { data: jobs } = useJobs();
  const { data: past, error: pastError } = useGet(`/shoots/${id}/handoffs`);
  const [chosen, setChosen] = useState('');
  const online = volumes?.filter((v) => v.online) ?? [];
  const volumeId = chosen || (online.find((v) => v.role === 'edit') ?? online[0])?.id || '';
  const running = jobs?.find((j) => j.shootId === id && j.kind === 'handoff' && isOpen(j));
  return (
    <Page
      title="Hand-off"
      of={shoot && shownName(shoot.title)}
      lead={shoot && `${shoot.title}: the keepers go to editing, originals and sidecars together.`}
    >
      <Problem error={error} />
      <Section title="Keepers to editing">
        <KeeperThumbs shootId={id!} />
        <TextField
          select
          slotProps={{ select: { native: true } }}
          label="Copy to"
          value={volumeId}
          onChange={(e) => setChosen(e.target.value)}
          sx={{ maxWidth: 320, mb: 2 }}
        >
          {volumes?.map((v) => (
            <option key={v.id} value={v.id} disabled={!v.online}>
              {v.name} {v.online ? `· ${bytes(v.free ?? 0)} free` : '· not connected'}
            </option>
          ))}
        </TextField>
        {volumeId && !running && <Plan shootId={id!} volumeId={volumeId} />}
        {running && <JobRunning job={running} />}
      </Section>
      <Section title="Handed off">
        <Problem error={pastError} />
        {!past && !pastError && <Loading what="what was handed off" />}
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
            <Box sx={{ ...CAPTION, color: INK.soft }}>{result.folders.join(' · ')}</Box>
            {result.failed > 0 && <Failures jobId={jobId} />}
          </Box>
        ))}
      </Section>
    </Page>
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
    return (
      <Typography>
        No frame is a keeper by the studio’s rule ({plan.rule}).{' '}
        <TextLink to={`/shoots/${shootId}/cull`}>Cull first</TextLink>
      </Typography>
    );
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
