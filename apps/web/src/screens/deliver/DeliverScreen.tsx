import { Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useParams, useSearchParams } from 'react-router';
import { isOpen, useJobs, useSettings, useShoot, useVolumes } from '../../data/live';
import { JobRunning } from '../../parts/JobRunning';
import { KeeperThumbs } from '../../parts/KeeperThumbs';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { GalleriesPart } from './gallery/GalleriesPart';
import { MadeSets } from './MadeSets';
import { PicturesDialog } from './messages/PicturesDialog';
import { PicturesPart } from './messages/PicturesPart';
import { NewSet } from './NewSet';
import { WentOutPart } from './WentOutPart';

/** Finished files of the keepers, with a manifest and a zip of all. */
export function DeliverScreen() {
  const { id } = useParams();
  const [asked, setAsked] = useSearchParams();
  const mailed = asked.get('mail')?.split(',') ?? [];
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
        {(running || !shoot || shoot.keepers === 0) && <KeeperThumbs shootId={id!} />}
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
      <MadeSets shootId={id!} busy={running !== undefined} />
      {shoot && <GalleriesPart shootId={id!} title={shoot.title} keepers={shoot.keepers} />}
      {shoot && <PicturesPart shootId={id!} />}
      {shoot && <WentOutPart shootId={id!} keepers={shoot.keepers} />}
      {shoot && mailed.length > 0 && (
        <PicturesDialog
          {...{ shootId: id!, title: shoot.title, frameIds: mailed }}
          onClose={() => setAsked({}, { replace: true })}
        />
      )}
    </Page>
  );
}
