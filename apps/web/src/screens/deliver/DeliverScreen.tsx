import { Box, Button, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useParams } from 'react-router';
import { bytes, many, momentOf } from '../../data/format';
import { isOpen, useJobs, useSettings, useShoot, useVolumes } from '../../data/live';
import { JobRunning } from '../../parts/JobRunning';
import { KeeperThumbs } from '../../parts/KeeperThumbs';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { NewSet } from './NewSet';
import { useGet } from '../../data/useGet';

/** Finished files of the keepers, with a manifest and a zip of all. */
export function DeliverScreen() {
  const { id } = useParams();
  const { data: shoot, error } = useShoot(id);
  const { data: volumes } = useVolumes();
  const { data: settings } = useSettings();
  const { data: jobs } = useJobs();
  const running = jobs?.find((j) => j.shootId === id && j.kind === 'delivery' && isOpen(j));
  const working = volumes?.find((v) => v.role === 'working' && v.online) ?? volumes?.find((v) => v.online);
  return (
    <Page
      title="Deliver"
      of={shoot && shownName(shoot.title)}
      lead={shoot && `${shoot.title}: finished files for the client. Originals are never changed.`}
    >
      <Problem error={error} />
      <Section title="A new set">
        <KeeperThumbs shootId={id!} />
        {!shoot && !error && <Loading what="the shoot" />}
        {running && <JobRunning job={running} />}
        {!running && shoot && shoot.keepers === 0 && (
          <Typography>
            There are no keepers yet. <TextLink to={`/shoots/${id}/cull`}>Cull first</TextLink>
          </Typography>
        )}
        {!running && shoot && shoot.keepers > 0 && settings && working && (
          <NewSet shootId={id!} keepers={shoot.keepers} volume={working} />
        )}
      </Section>
      <Delivered shootId={id!} />
    </Page>
  );
}

function Delivered({ shootId }: { shootId: string }) {
  const { data: sets, error } = useGet(`/shoots/${shootId}/deliveries`);
  return (
    <Section title="Sets">
      <Problem error={error} />
      {!sets && !error && <Loading what="the sets" />}
      {sets?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>Nothing has been made yet.</Typography>
      )}
      {sets?.map(({ jobId, title, at, result }) => (
        <Box
          key={jobId}
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            py: 1,
            borderBottom: `1px solid ${GROUND.raised}`,
          }}
        >
          <Box sx={{ flex: 1 }}>
            <Box sx={{ fontWeight: 640 }}>{title.slice(title.lastIndexOf(' · ') + 3)}</Box>
            <Box sx={{ color: INK.soft }}>
              {momentOf(at)} · {result.line ? `keepers: ${result.line} · ` : ''}
              {many(result.files, 'file')}, {bytes(result.bytes)}
              {result.fresh > 0 && ` · ${many(result.fresh, 'keeper')} new since, not in it`}
              {result.failed > 0 && (
                <Box component="span" sx={{ color: STRIKE_TEXT }}>
                  {' '}
                  · {result.failed} could not be made
                </Box>
              )}
            </Box>
            <Box sx={{ ...CAPTION, color: INK.soft }}>
              {result.volume} / {result.zip.path}
            </Box>
          </Box>
          <Button variant="outlined" color="inherit" href={`/api/deliveries/${jobId}/zip`} download>
            Download zip, {bytes(result.zip.size)}
          </Button>
        </Box>
      ))}
    </Section>
  );
}
