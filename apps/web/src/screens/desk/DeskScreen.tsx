import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { Link } from 'react-router';
import { bytes, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import {
  isOpen,
  useClearance,
  useJobs,
  useReaders,
  useSettings,
  useShoots,
  useVolumes,
} from '../../data/live';
import { jobShare, jobWords } from '../../parts/JobSign';
import { LeadStrip } from '../../parts/LeadStrip';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { CAPTION, GROUND, INK, NOTE, STRIKE_TEXT } from '../../theme/theme';
import { AddFolder } from './AddFolder';
import { StandInCards } from './StandInCards';

/** What needs doing next: cards, running work, shoots by their next step, drives. */
export function DeskScreen() {
  const { data: readers, error } = useReaders();
  const { data: jobs } = useJobs();
  const { data: shoots } = useShoots();
  const { data: volumes } = useVolumes();
  const { data: settings } = useSettings();
  const open = jobs?.filter(isOpen) ?? [];
  return (
    <Page title="Desk" lead="What needs doing next, in the order of the job.">
      <Problem error={error} />
      <Section title="Cards in readers">
        <Box sx={{ display: 'grid', gap: 1 }}>
          {readers?.map((reader) => (
            <ReaderRow key={reader.id} reader={reader} />
          ))}
        </Box>
        {settings?.standIns && <StandInCards readers={readers ?? []} />}
        <AddFolder
          words="Take in from a folder …"
          said="The folder is treated like a card: it is only read, and nothing in it is changed."
          send={(root, name) => post('/readers', { root, name })}
        />
      </Section>
      {open.length > 0 && (
        <Section title="Under way">
          {open.map((job) => (
            <JobRow key={job.id} job={job} />
          ))}
        </Section>
      )}
      <Section title="Shoots by next step">
        {shoots?.length === 0 && (
          <Typography sx={{ color: 'text.secondary' }}>
            No shoot is archived yet. Take in a card: its frames become one.
          </Typography>
        )}
        {shoots?.slice(0, 12).map((shoot) => (
          <ShootRow key={shoot.id} shoot={shoot} jobs={jobs ?? []} />
        ))}
      </Section>
      <Section title="Drives">
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          {volumes?.map((volume) => (
            <VolumeRow key={volume.id} volume={volume} />
          ))}
        </Box>
        <AddFolder
          words="Add a drive or folder …"
          said="A small id file is put into the folder, so that it is known again under another path. Nothing else is changed."
          uses={ROLE_WORDS}
          send={(root, name, role) => post('/volumes', { root, name, role })}
        />
      </Section>
    </Page>
  );
}

function ReaderRow({ reader }: { reader: Api['ReaderDto'] }) {
  const { data: clearance } = useClearance(reader.id, reader.card);
  const archived = clearance?.safe ?? false;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minHeight: 40 }}>
      <Box sx={{ width: 110, color: INK.soft }}>{reader.name}</Box>
      <Box sx={{ flex: 1, fontWeight: reader.card ? 640 : 400, color: reader.card ? INK.full : INK.faint }}>
        {reader.card ?? 'empty'}
        {archived && (
          <Box component="span" sx={{ ml: 2, fontWeight: 400, color: NOTE }}>
            all {many(clearance!.total, 'file')} archived · safe to clear
          </Box>
        )}
      </Box>
      {reader.card && (
        <>
          {archived && (
            <Button
              variant="outlined"
              color="inherit"
              onClick={() => void post(`/readers/${reader.id}/eject`)}
            >
              Eject
            </Button>
          )}
          <Button
            component={Link}
            to={`/intake/${reader.id}`}
            aria-label={`${archived ? 'Look at it' : 'Take in'}: ${reader.card}`}
            variant={archived ? 'text' : 'contained'}
            color={archived ? 'inherit' : 'primary'}
          >
            {archived ? 'Look at it' : 'Take in'}
          </Button>
        </>
      )}
    </Box>
  );
}

function JobRow({ job }: { job: Api['JobDto'] }) {
  return (
    <Box sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2, mb: 0.5 }}>
        <Box sx={{ flex: 1 }}>
          {jobWords(job)}
          {job.reason && (
            <Box component="span" sx={{ color: INK.soft }}>
              {' '}
              · {job.reason}
            </Box>
          )}
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {job.filesDone} of {many(job.filesTotal, 'file')}
          {job.bytesTotal > 0 && ` · ${bytes(job.bytesDone)} of ${bytes(job.bytesTotal)}`}
        </Box>
        {job.kind === 'intake' && (
          <Button
            component={Link}
            to={`/intake/job?job=${job.id}`}
            size="small"
            color="inherit"
            sx={{ py: 0 }}
          >
            Open
          </Button>
        )}
      </Box>
      <LinearProgress
        variant="determinate"
        color="inherit"
        value={jobShare(job)}
        aria-label={jobWords(job)}
      />
    </Box>
  );
}

function nextStep(shoot: Api['ShootDto'], jobs: readonly Api['JobDto'][]): { words: string; to: string } {
  const done = (kind: string) =>
    jobs.some((j) => j.shootId === shoot.id && j.kind === kind && j.state === 'done');
  const left = shoot.frames - shoot.keepers - shoot.rejects;
  if (left > 0 || shoot.keepers === 0) return { words: `Cull: ${left} of ${shoot.frames} left`, to: 'cull' };
  if (!done('handoff')) return { words: `Hand off ${many(shoot.keepers, 'keeper')}`, to: 'handoff' };
  if (!done('delivery')) return { words: `Deliver ${many(shoot.keepers, 'keeper')}`, to: 'deliver' };
  return { words: 'Delivered', to: 'deliver' };
}

function ShootRow({ shoot, jobs }: { shoot: Api['ShootDto']; jobs: readonly Api['JobDto'][] }) {
  const next = nextStep(shoot, jobs);
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        py: 0.75,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <LeadStrip leads={shoot.leads} height={44} />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ fontWeight: 640 }}>{shoot.title}</Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {[mediumDay(shoot.date), shoot.client, shoot.place, many(shoot.frames, 'frame')]
            .filter(Boolean)
            .join(' · ')}
        </Box>
      </Box>
      <Button component={Link} to={`/shoots/${shoot.id}/${next.to}`} variant="outlined" color="inherit">
        {next.words}
      </Button>
    </Box>
  );
}

const ROLE_WORDS = { working: 'working drive', backup: 'backup', edit: 'for editing' } as const;

function VolumeRow({ volume }: { volume: Api['VolumeDto'] }) {
  const share = volume.free !== null && volume.total ? 1 - volume.free / volume.total : 0;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minHeight: 30 }}>
      <Box sx={{ width: 180, fontWeight: 560 }}>{volume.name}</Box>
      <Box sx={{ width: 120, color: INK.soft }}>{ROLE_WORDS[volume.role]}</Box>
      {volume.online ? (
        <>
          <Box sx={{ width: 220, height: 4, bgcolor: GROUND.line }} aria-hidden>
            <Box sx={{ width: `${share * 100}%`, height: 4, bgcolor: INK.soft }} />
          </Box>
          <Box sx={{ ...CAPTION, color: INK.soft }}>
            {bytes(volume.free ?? 0)} free of {bytes(volume.total ?? 0)}
          </Box>
        </>
      ) : (
        <Box sx={{ color: STRIKE_TEXT }}>not there; its frames can still be looked at and marked</Box>
      )}
    </Box>
  );
}
