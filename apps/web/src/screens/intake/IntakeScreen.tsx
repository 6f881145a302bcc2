import { Box, Button, Typography } from '@mui/material';
import { orderFrames, splitFrames, withCorrections, type ClockCorrection, type SplitRule } from '@arkiv/core';
import { useMemo, useState } from 'react';
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
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { GROUND } from '../../theme/theme';
import { CardSheet } from './CardSheet';
import { CopyingView } from './CopyingView';
import { zoneOf } from './draft';
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
  return <Before key={reader} readerId={reader!} onStarted={(id) => setSearch({ job: id })} />;
}

function Before({ readerId, onStarted }: { readerId: string; onStarted: (jobId: string) => void }) {
  const { data: readers } = useReaders();
  const { data: card, error } = useCard(readerId);
  const { data: listing } = useListing(readerId);
  const { data: settings } = useSettings();
  const { data: volumes } = useVolumes();
  const { data: shoots } = useShoots();
  const [hover, setHover] = useState<string | null>(null);
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  const [corrections, setCorrections] = useState<readonly ClockCorrection[]>([]);
  const corrected = useMemo(
    () => card && { ...card, frames: withCorrections(card.frames, corrections) as CardFrames },
    [card, corrections],
  );
  const [rule, setRule] = useState<SplitRule>({ by: 'none' });
  const { data: known = NONE } = useKnown(readerId, card?.fingerprint);
  const dayStartHour = settings?.dayStartHour ?? 4;
  const ordered = useMemo(
    () => (corrected ? orderFrames(corrected.frames, zoneOf(corrected)) : []),
    [corrected],
  );
  const parts = useMemo(() => {
    const taken = ordered
      .filter((f) => !leftOut.has(f.key))
      .map((f) => ({ key: f.key, capture: f.facts.capture }));
    return corrected ? splitFrames(taken, rule, zoneOf(corrected), dayStartHour) : [];
  }, [ordered, leftOut, rule, corrected, dayStartHour]);
  const reader = readers?.find((r) => r.id === readerId);
  if (error) {
    return (
      <Page title={reader ? `${reader.name}` : 'Reader'}>
        <Problem error={error} />
      </Page>
    );
  }
  if (listing && (!corrected || !settings || !volumes || !shoots))
    return <Reading readerId={readerId} listing={listing} />;
  if (!corrected || !settings || !volumes || !shoots) {
    return (
      <Page
        title="Reading the card …"
        lead="Its folders are listed and the facts of its frames are read. Nothing is changed on it."
      >
        {null}
      </Page>
    );
  }
  if (corrected.frames.length === 0 && corrected.extras.length === 0) {
    return (
      <Page title={corrected.card} lead="There are no files on this card: nothing can be taken in from it.">
        <Button component={Link} to="/" variant="outlined" color="inherit">
          To the Desk
        </Button>
      </Page>
    );
  }
  return (
    <Box component="main" sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 440px', minHeight: 0 }}>
      <CardSheet
        readerId={readerId}
        card={corrected}
        highlighted={hover}
        ordered={ordered as CardFrames}
        leftOut={leftOut}
        known={known}
        rule={rule}
        parts={parts}
        onRule={setRule}
        onLeftOut={setLeftOut}
      />
      <PlanForm
        readerId={readerId}
        card={corrected}
        shoots={shoots}
        leftOut={leftOut}
        known={known}
        parts={parts}
        corrections={corrections}
        onCorrections={setCorrections}
        settings={settings}
        volumes={volumes}
        onHover={setHover}
        onStarted={onStarted}
      />
    </Box>
  );
}

/** The small pictures in the order of their names, until the times are known. */
function Reading({ readerId, listing }: { readerId: string; listing: Api['CardDto'] }) {
  return (
    <Box component="main" sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 440px', minHeight: 0 }}>
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
    </Box>
  );
}
