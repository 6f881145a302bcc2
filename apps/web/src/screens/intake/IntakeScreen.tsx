import { Box, Button, Typography } from '@mui/material';
import { orderFrames, splitFrames, withCorrections } from '@arkiv/core';
import { useMemo, useState, type ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import {
  useCard,
  useKnown,
  useListing,
  useReaders,
  useSettings,
  useShoots,
  useVolumes,
} from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { forgetKept, useKeptReducer } from '../../parts/useKeptState';
import { GROUND } from '../../theme/theme';
import { CardSheet } from './CardSheet';
import { CopyingView } from './CopyingView';
import { zoneOf } from './draft';
import { heldDraft, newDraft, reduceDraft, type DraftGround, type IntakeDraft } from './intakeDraft';
import { PlanForm } from './PlanForm';

type CardFrames = Api['CardDto']['frames'];
const NONE: string[] = [];
const NOTHING: ReadonlySet<string> = new Set();

/** A card before, while and after it is taken in. */
export function IntakeScreen() {
  const { reader } = useParams();
  const [search, setSearch] = useSearchParams();
  const job = search.get('job');
  if (job) return <CopyingView jobId={job} />;
  // Back leads to the Desk, not to a plan that is being carried out.
  return (
    <Before key={reader} readerId={reader!} onStarted={(id) => setSearch({ job: id }, { replace: true })} />
  );
}

function Before({ readerId, onStarted }: { readerId: string; onStarted: (jobId: string) => void }) {
  const { data: readers } = useReaders();
  const { data: card, error } = useCard(readerId);
  const { data: listing } = useListing(readerId);
  const reader = readers?.find((r) => r.id === readerId);
  if (error) {
    return (
      <Page title={reader ? `${reader.name}` : 'Reader'}>
        <Problem error={error} />
        <Button component={Link} to="/" variant="outlined" color="inherit">
          To the Desk
        </Button>
      </Page>
    );
  }
  // The answer for the card that was in the slot before is none for this one.
  const isHere = (answer: Api['CardDto']) => !reader || reader.card === answer.card;
  // Another card is another plan; the same one comes back to its own.
  if (card && isHere(card))
    return <Planning key={card.fingerprint} readerId={readerId} card={card} onStarted={onStarted} />;
  return listing && isHere(listing) ? <Listed readerId={readerId} listing={listing} /> : <Reading />;
}

interface PlanningProps {
  readerId: string;
  card: Api['CardDto'];
  onStarted: (jobId: string) => void;
}

function Planning(props: PlanningProps) {
  const { card } = props;
  const { data: settings } = useSettings();
  const { data: volumes } = useVolumes();
  const { data: shoots } = useShoots();
  if (!settings || !volumes || !shoots) return <Reading />;
  if (card.frames.length === 0 && card.extras.length === 0) {
    return (
      <Page title={card.card} lead="There are no files on this card: nothing can be taken in from it.">
        <Button component={Link} to="/" variant="outlined" color="inherit">
          To the Desk
        </Button>
      </Page>
    );
  }
  return <Planned {...props} ground={{ card, settings, volumes, shoots }} />;
}

/** What is chosen and written for a card that is in the reader, kept while the window is open. */
function Planned({ readerId, card, onStarted, ground }: PlanningProps & { ground: DraftGround }) {
  const kept = `intake.${card.fingerprint}`;
  const [draft, dispatch] = useKeptReducer(
    kept,
    reduceDraft,
    () => newDraft(ground),
    (before: IntakeDraft) => heldDraft(before, ground),
  );
  const { leftOut: left, corrections, rule } = draft;
  const [hover, setHover] = useState<string | null>(null);
  const leftOut = useMemo(() => new Set(left), [left]);
  const corrected = useMemo(
    () => ({ ...card, frames: withCorrections(card.frames, corrections) as CardFrames }),
    [card, corrections],
  );
  const { data: known = NONE } = useKnown(readerId, card.fingerprint);
  const { dayStartHour } = ground.settings;
  const ordered = useMemo(() => orderFrames(corrected.frames, zoneOf(corrected)), [corrected]);
  const parts = useMemo(() => {
    const taken = ordered
      .filter((f) => !leftOut.has(f.key))
      .map((f) => ({ key: f.key, capture: f.facts.capture }));
    return splitFrames(taken, rule, zoneOf(corrected), dayStartHour);
  }, [ordered, leftOut, rule, corrected, dayStartHour]);
  return (
    <Both>
      <CardSheet
        readerId={readerId}
        card={corrected}
        highlighted={hover}
        ordered={ordered as CardFrames}
        leftOut={leftOut}
        known={known}
        rule={rule}
        parts={parts}
        onRule={(next) => dispatch({ type: 'split', rule: next })}
        onLeftOut={(keys) => dispatch({ type: 'leaveOut', keys: [...keys] })}
      />
      <PlanForm
        readerId={readerId}
        ground={{ ...ground, card: corrected }}
        draft={draft}
        dispatch={dispatch}
        leftOut={leftOut}
        known={known}
        parts={parts}
        onHover={setHover}
        onStarted={(id) => {
          forgetKept(kept);
          onStarted(id);
        }}
      />
    </Both>
  );
}

/** The sheet beside the plan; below it where there is no room for both. */
function Both({ children }: { children: ReactNode }) {
  return (
    <Box
      component="main"
      sx={{
        display: 'grid',
        minHeight: 0,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 400px', lg: 'minmax(0, 1fr) 440px' },
        gridTemplateRows: { xs: 'minmax(420px, 80vh) auto', md: 'minmax(0, 1fr)' },
        overflow: { xs: 'auto', md: 'hidden' },
      }}
    >
      {children}
    </Box>
  );
}

function Reading() {
  return (
    <Page
      title="Reading the card …"
      lead="Its folders are listed and the facts of its frames are read. Nothing is changed on it."
    >
      <Loading what="the card" />
    </Page>
  );
}

/** The small pictures in the order of their names, until the times are known. */
function Listed({ readerId, listing }: { readerId: string; listing: Api['CardDto'] }) {
  return (
    <Both>
      <CardSheet
        readerId={readerId}
        card={listing}
        highlighted={null}
        ordered={listing.frames}
        leftOut={NOTHING}
        known={NONE}
        rule={{ by: 'none' }}
        parts={[]}
        reading
        onRule={() => undefined}
        onLeftOut={() => undefined}
      />
      <Box sx={{ p: 2.5, borderLeft: `1px solid ${GROUND.line}`, bgcolor: GROUND.raised }}>
        <Typography variant="h2">Reading the facts of {many(listing.frames.length, 'frame')} …</Typography>
        <Typography sx={{ color: 'text.secondary', mt: 1 }}>
          When they were taken and by which body. The card is only read; nothing is changed on it.
        </Typography>
      </Box>
    </Both>
  );
}
