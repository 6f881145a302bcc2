import { Box, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useParams } from 'react-router';
import { many } from '../../data/format';
import { useJobs, useShoot } from '../../data/live';
import { CopyText } from '../../parts/CopyText';
import { JobCard } from '../../parts/JobCard';
import { LeadStrip } from '../../parts/LeadStrip';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, INK } from '../../theme/theme';
import { RejectsPart } from './RejectsPart';
import { KeptOn } from './KeptOn';
import { MergePart } from './MergePart';
import { RenamePart } from './RenamePart';
import { ShootClocks } from './ShootClocks';
import { ShootFacts } from './ShootFacts';
import { SplitShoot } from './SplitShoot';
import { TakeInPart } from './TakeInPart';

/** Jobs of this screen that are still shown below: enough to undo the last steps. */
const SHOWN_JOBS = 6;

/** A shoot's files: where they lie, whether they are whole, their names, and moving them between shoots. */
export function FilesScreen() {
  const { id } = useParams();
  return <Files key={id} shootId={id!} />;
}

function Files({ shootId }: { shootId: string }) {
  const { data: shoot, error } = useShoot(shootId);
  const { data: jobs } = useJobs();
  if (!shoot)
    return <Page title="Files">{error ? <Problem error={error} /> : <Loading what="the shoot" />}</Page>;
  const done =
    jobs?.filter(
      (j) =>
        (j.shootId === shootId || j.fromShootId === shootId) &&
        ['move', 'bin', 'verify', 'copy', 'release'].includes(j.kind),
    ) ?? [];
  return (
    <Page
      title="Files"
      of={shownName(shoot.title)}
      lead={`${many(shoot.frames, 'frame')} of ${shoot.title} in ${many(shoot.files, 'file')}${shoot.sidecars ? ', beside each frame its sidecar' : ''}.`}
    >
      {shoot.leads.length > 0 && (
        <Box sx={{ mb: 3, overflow: 'hidden' }}>
          <LeadStrip leads={shoot.leads} height={96} places={Math.min(6, shoot.leads.length)} />
        </Box>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 330px' },
          columnGap: 5,
        }}
      >
        <Box>
          <KeptOn shoot={shoot} />
          <ShootFacts shoot={shoot} />
          {shoot.frames > 0 && (
            <>
              {shoot.keptIn !== null && <TakeInPart shoot={shoot} />}
              <RenamePart key={`${shoot.id} ${shoot.pattern}`} shoot={shoot} />
              <RejectsPart shoot={shoot} moves={done.map(({ id, state }) => `${id} ${state}`).join(' ')} />
              <SplitShoot shoot={shoot} />
              <MergePart shoot={shoot} />
              <ShootClocks shoot={shoot} />
            </>
          )}
        </Box>
        <Box>
          <Section title="Folders">
            {shoot.folders.map((folder) => (
              <FolderLine key={folder} folder={folder} />
            ))}
            <Typography variant="body2" sx={{ color: 'text.secondary', mt: 1, overflowWrap: 'anywhere' }}>
              {shoot.keptIn === null
                ? 'The same below each drive. Receipts and a manifest that “sha256sum -c” checks lie in the hidden folder .arkiv inside.'
                : `An adopted folder: nothing is written into it${shoot.sidecars ? ' but sidecars' : ''}. A manifest that “sha256sum -c” checks lies in ${shoot.keptIn}/.arkiv on each drive.`}
            </Typography>
          </Section>
          <Section
            title="Done here"
            aside={
              <Box sx={{ display: 'flex', gap: 2 }}>
                <TextLink to={`/shoots/${shoot.id}/history`}>What was decided</TextLink>
                <TextLink to={`/trail?shoot=${shoot.id}`}>Paper trail</TextLink>
              </Box>
            }
          >
            {done.length === 0 && (
              <Typography sx={{ color: 'text.secondary' }}>
                Nothing was moved or verified again yet. Moves can be undone from here.
              </Typography>
            )}
            {done.slice(0, SHOWN_JOBS).map((job) => (
              <JobCard key={job.id} job={job} />
            ))}
          </Section>
        </Box>
      </Box>
    </Page>
  );
}

const FolderLine = ({ folder }: { folder: string }) => (
  <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
    <Box sx={{ ...CAPTION, flex: 1, minWidth: 0, color: INK.soft, overflowWrap: 'anywhere' }}>{folder}</Box>
    <CopyText text={folder} />
  </Box>
);
