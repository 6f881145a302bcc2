import { Box, Button } from '@mui/material';
import { Link } from 'react-router';
import { bytes, many, mediumDay } from '../../data/format';
import { post, put, type Api } from '../../data/http';
import { isOpen, useCardSummary, useClearance, useJobs, useKnown } from '../../data/live';
import { ClearCard } from '../../parts/ClearCard';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, NOTE, STRIKE_TEXT } from '../../theme/theme';

const HEIGHT = 52;

/** A card in a reader: what is on it, and what can be done with it. */
export function CardRow({
  reader,
  primary,
}: {
  reader: Api['ReaderDto'];
  /** taking it in is what comes next on this screen */
  primary: boolean;
}) {
  const { data: summary, error } = useCardSummary(reader.id, reader.card);
  const { data: clearance } = useClearance(reader.id, reader.card);
  const { data: jobs } = useJobs();
  const { run: send, error: refused, again } = useAction((ask: () => Promise<unknown>) => ask());
  const open = (kind: string) =>
    // What works on the card that was in this slot before says nothing of this one.
    jobs?.find(
      (job) => job.readerId === reader.id && job.card === reader.card && job.kind === kind && isOpen(job),
    );
  const running = open('intake');
  const clearing = open('clear') !== undefined;
  const empty = summary?.files === 0;
  const { data: known } = useKnown(reader.id, summary?.fingerprint);
  const archived = clearance?.safe ?? false;
  const words =
    archived || empty
      ? 'Look at it'
      : running
        ? 'Copying …'
        : `Take in ${summary ? whatIsOn(summary) : ''}`.trim();
  const seen = !archived && summary !== undefined && summary.frames > 0 && known?.length === summary.frames;
  return (
    <Box
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: { xs: 1, lg: 2 },
        py: 0.75,
        borderBottom: `1px solid ${GROUND.raised}`,
      }}
    >
      <Box
        sx={{
          display: 'flex',
          gap: '2px',
          // As many of the four as leave the words and the buttons their line.
          width: { xs: (HEIGHT * 1.5 + 2) * 2, lg: (HEIGHT * 1.5 + 2) * 3, xl: (HEIGHT * 1.5 + 2) * 4 },
          height: HEIGHT,
          flex: 'none',
          overflow: 'hidden',
        }}
        aria-hidden
      >
        {summary?.pictures.slice(1, 5).map(({ path }) => (
          <Box
            key={path}
            sx={{
              width: HEIGHT * 1.5,
              height: HEIGHT,
              overflow: 'hidden',
              display: 'grid',
              placeItems: 'center',
              bgcolor: GROUND.deep,
            }}
          >
            <img
              src={`/api/readers/${reader.id}/picture?size=thumb&card=${summary.fingerprint}&path=${encodeURIComponent(path)}`}
              alt=""
              loading="lazy"
              style={{
                width: HEIGHT * 1.5,
                height: HEIGHT,
                objectFit: 'cover',
                opacity: archived ? 0.5 : 1,
              }}
            />
          </Box>
        ))}
      </Box>
      <Box sx={{ flex: '1 1 200px', minWidth: 0 }}>
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
          <Box sx={{ fontWeight: 640 }}>{reader.card}</Box>
          <Box sx={{ ...CAPTION, color: INK.faint }}>{reader.name}</Box>
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {clearing
            ? 'being cleared: each file that is proven good elsewhere is deleted from it'
            : summary
              ? summaryWords(summary)
              : !error && 'reading the card …'}
        </Box>
        {archived && !clearing && (
          <Box sx={{ color: NOTE }}>
            All {many(clearance!.total, 'file')} archived and read back: safe to clear.
          </Box>
        )}
        {!archived && known && known.length > 0 && (
          <Box sx={{ color: NOTE }}>
            {seen ? 'All its frames look archived' : `${many(known.length, 'frame')} of it look archived`}:
            taking it in compares them by content.
          </Box>
        )}
        {reader.deviceUnknown && (
          <Box sx={{ color: STRIKE_TEXT }}>
            On which device it lies cannot be found out: no copy proves it for clearing.{' '}
            <Button
              size="small"
              color="inherit"
              onClick={() => send(() => put(`/readers/${reader.id}/device`, { device: `card ${reader.id}` }))}
            >
              It is a device of its own
            </Button>
          </Box>
        )}
        <Problem error={error} />
        <Problem error={refused} again={again} />
      </Box>
      {archived && !clearing && (
        <ClearCard
          readerId={reader.id}
          card={reader.card!}
          proven={clearance!.proven}
          total={clearance!.total}
        />
      )}
      {!running && !clearing && reader.kind !== 'cable' && (
        <Button
          color="inherit"
          variant={archived || empty ? 'outlined' : 'text'}
          aria-label={`${reader.kind === 'folder' ? 'Take off the list' : 'Eject'}: ${reader.card}`}
          onClick={() => send(() => post(`/readers/${reader.id}/eject`))}
        >
          {reader.kind === 'folder' ? 'Take off the list' : 'Eject'}
        </Button>
      )}
      {!clearing && (
        <Button
          component={Link}
          to={running ? `/intake/job?job=${running.id}` : `/intake/${reader.id}`}
          aria-label={`${words}: ${reader.card}`}
          variant={archived || empty || running ? 'text' : seen || !primary ? 'outlined' : 'contained'}
          color={archived || empty || running || seen || !primary ? 'inherit' : 'primary'}
          sx={{ whiteSpace: 'nowrap' }}
        >
          {words}
        </Button>
      )}
    </Box>
  );
}

const whatIsOn = ({ frames, files }: Api['CardSummaryDto']): string =>
  frames > 0 ? many(frames, 'frame') : many(files, 'file');

function summaryWords(summary: Api['CardSummaryDto']): string {
  if (summary.files === 0) return 'empty';
  const { first, last } = summary;
  const span =
    first && last
      ? first.slice(0, 10) === last.slice(0, 10)
        ? `${mediumDay(first.slice(0, 10))}, ${first.slice(11, 16)}–${last.slice(11, 16)}`
        : `${mediumDay(first.slice(0, 10))} – ${mediumDay(last.slice(0, 10))}`
      : 'no capture times';
  return [span, summary.bodies.join(' and '), `${many(summary.files, 'file')}, ${bytes(summary.bytes)}`]
    .filter(Boolean)
    .join(' · ');
}
