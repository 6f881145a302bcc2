import { Box } from '@mui/material';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { useCard, useReaders, useSettings, useVolumes } from '../../data/live';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { CardSheet } from './CardSheet';
import { CopyingView } from './CopyingView';
import { PlanForm } from './PlanForm';

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
  const { data: settings } = useSettings();
  const { data: volumes } = useVolumes();
  const [hover, setHover] = useState<string | null>(null);
  const reader = readers?.find((r) => r.id === readerId);
  if (error) {
    return (
      <Page title={reader ? `${reader.name}` : 'Reader'}>
        <Problem error={error} />
      </Page>
    );
  }
  if (!card || !settings || !volumes) {
    return (
      <Page
        title="Reading the card …"
        lead="Its folders are listed and the facts of its frames are read. Nothing is changed on it."
      >
        {null}
      </Page>
    );
  }
  return (
    <Box component="main" sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) 440px', minHeight: 0 }}>
      <CardSheet readerId={readerId} card={card} highlighted={hover} />
      <PlanForm
        readerId={readerId}
        card={card}
        settings={settings}
        volumes={volumes}
        onHover={setHover}
        onStarted={onStarted}
      />
    </Box>
  );
}
