import { Box, Typography } from '@mui/material';
import { Navigate } from 'react-router';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';
import {
  isOpen,
  useJobs,
  useOpenShoots,
  useReaders,
  useSettings,
  useShoots,
  useShootTotals,
  useVolumes,
} from '../../data/live';
import { AddFolder } from '../../parts/AddFolder';
import { FromDrives } from '../../parts/FromDrives';
import { JobCard } from '../../parts/JobCard';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { ROLE_WORDS, type Role } from '../../data/roles';
import { INK } from '../../theme/theme';
import { AdoptedRows } from './AdoptedRows';
import { CardRow } from './CardRow';
import { InBin } from './InBin';
import { WithClients } from './WithClients';
import { CarriedRows } from './CarriedRows';
import { OthersDrives } from './OthersDrives';
import { DriveRow } from './DriveRow';
import { WatchedRows } from './WatchedRows';
import { nextStep } from './nextStep';
import { ShootRow } from './ShootRow';

/** Rows of work shown on the Desk; all others are under Shoots. */
const SHOOTS_SHOWN = 12;
/** Delivered shoots that still stand at the end of the list. */
const DELIVERED_SHOWN = 3;

/** What needs doing next: cards, running work, shoots by their next step, drives. */
export function DeskScreen() {
  const { data: readers, error } = useReaders();
  const { data: jobs } = useJobs();
  const { data: shoots } = useShoots();
  const { data: totals } = useShootTotals();
  const { data: volumes } = useVolumes();
  const { data: settings } = useSettings();
  const open = jobs?.filter(isOpen) ?? [];
  const inside = readers?.filter((r) => r.card) ?? [];
  const empty = readers?.filter((r) => !r.card && r.kind !== 'unmounted') ?? [];
  const onCable = readers?.filter((r) => r.kind === 'unmounted') ?? [];
  // One thing comes next: the first card that is not being copied.
  const first = inside.find(
    ({ id, card }) => !open.some((job) => job.readerId === id && job.card === card),
  )?.id;
  const { data: waiting } = useOpenShoots();
  const work = inOrderOfWork(waiting ?? [], shoots ?? []);
  if (settings && !settings.welcomed && volumes?.length === 0) return <Navigate to="/welcome" replace />;
  return (
    <Page
      title="Desk"
      lead={
        waiting && readers && leadOf(inside.length, waiting, totals ?? null, settings?.requiredCopies ?? 2)
      }
    >
      <Problem error={error} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 290px' },
          columnGap: 5,
        }}
      >
        <Box>
          <Section
            title="Cards"
            aside={shoots && shoots.length > 0 && <TextLink to="/arrival">Latest arrival</TextLink>}
          >
            {!readers && !error && <Loading what="the readers" />}
            {inside.map((reader) => (
              <CardRow key={reader.id} reader={reader} primary={reader.id === first} />
            ))}
            {empty.length > 0 && (
              <Box sx={{ color: INK.faint, mt: 1 }}>
                {empty.map((r) => r.name).join(' and ')} {empty.length === 1 ? 'is' : 'are'} empty
                {inside.length === 0 && ': insert a card, and it shows here'}.
              </Box>
            )}
            {onCable.map((device) => (
              <Box key={device.id} sx={{ mt: 1 }}>
                “{device.name}” is on a cable and shows no files: put its card into a reader, or let the
                computer mount it.
              </Box>
            ))}
            {readers?.length === 0 && (
              <Typography sx={{ color: 'text.secondary' }}>
                Put a card into a reader: it shows here by itself, as soon as the computer has mounted it.
              </Typography>
            )}
            <AddFolder
              words="Take in from a folder …"
              said="The folder is treated like a card: it is only read, and nothing in it is changed."
              send={(root, name) => post('/readers', { root, name })}
            />
            <Box sx={{ mt: 0.5, color: INK.soft }}>
              From another computer or a telephone: <TextLink to="/uploads">upload</TextLink>. Pictures that
              lie on a disk already can stay there: <TextLink to="/adopted">adopt a folder</TextLink>
            </Box>
          </Section>
          <CarriedRows />
          <WatchedRows />
          <AdoptedRows />
          {open.length > 0 && (
            <Section title="Running">
              {open.map((job) => (
                <JobCard key={job.id} job={job} />
              ))}
            </Section>
          )}
          <Section
            title="Shoots by next step"
            aside={
              totals && totals.shoots > work.length && <TextLink to="/shoots">All {totals.shoots}</TextLink>
            }
          >
            {!waiting && <Loading what="the shoots" />}
            {shoots?.length === 0 && (
              <>
                <Typography sx={{ color: 'text.secondary' }}>
                  No shoot is archived yet. Take in a card: its frames become one.
                </Typography>
                <FromDrives />
              </>
            )}
            {work.map((shoot) => (
              <ShootRow key={shoot.id} shoot={shoot} required={settings?.requiredCopies ?? 2} />
            ))}
          </Section>
        </Box>
        <Box>
          <Section title="Drives" aside={<TextLink to="/space">Space</TextLink>}>
            {!volumes && <Loading what="the drives" />}
            {volumes?.filter(isOurs).map((volume) => (
              <DriveRow key={volume.id} volume={volume} others={volumes} />
            ))}
            <OthersDrives volumes={volumes?.filter((volume) => !isOurs(volume)) ?? []} />
            <AddFolder
              words="Add a drive or folder …"
              said="A small id file is put into the folder, so that it is known again under another path. Nothing else is changed."
              uses={ROLE_WORDS}
              send={(root, name, role, how) =>
                post('/volumes', { root, name, role: role as Role, create: true, ...how })
              }
            />
          </Section>
          <WithClients />
          <InBin />
          {settings?.standIns && (
            <Section title="Simulated devices">
              <Typography sx={{ color: 'text.secondary' }}>
                Folders play the readers and drives of this demo.{' '}
                <TextLink to="/stand-ins">Insert cards, make devices fail</TextLink>
              </Typography>
            </Section>
          )}
        </Box>
      </Box>
    </Page>
  );
}

/** Drives of another archive from which shoots came are known for the copies on them, and have never been here. */
const isOurs = ({ heldBy, online }: Api['VolumeDto']): boolean => heldBy === null || online;

/** Oldest work first, as it was promised first; what was delivered last stands at the end. */
function inOrderOfWork(
  waiting: readonly Api['ShootDto'][],
  newest: readonly Api['ShootDto'][],
): Api['ShootDto'][] {
  const open = waiting.filter((shoot) => nextStep(shoot).step !== 'delivered');
  const delivered = newest.filter((shoot) => nextStep(shoot).step === 'delivered');
  return [...open.slice(0, SHOOTS_SHOWN), ...delivered.slice(0, DELIVERED_SHOWN)];
}

function leadOf(
  cards: number,
  shoots: readonly Api['ShootDto'][],
  totals: Api['ShootTotalsDto'] | null,
  required: number,
): string {
  const at = (step: string) => shoots.filter((shoot) => nextStep(shoot).step === step).length;
  const parts = [
    cards > 0 && `${many(cards, 'card')} in the readers`,
    at('cull') > 0 && `${many(at('cull'), 'shoot')} to cull`,
    at('handoff') > 0 && `${at('handoff')} to hand off`,
    at('deliver') > 0 && `${at('deliver')} to deliver`,
    totals !== null &&
      totals.shoots > 0 &&
      (totals.missingCopies > 0
        ? `${many(totals.missingCopies, 'file')} short of ${required} copies`
        : `every archived file has ${required} verified copies`),
  ];
  return parts.filter(Boolean).join(' · ') || 'Nothing waits. Insert a card to begin.';
}
