import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { del } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { watchState } from '../../parts/watchWords';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { WatchForm, type WatchRule } from './WatchForm';

/** Folders whose pictures are taken in by themselves. */
export function WatchedFolders() {
  const { data, error, mutate } = useGet('/watch');
  const [edited, setEdited] = useState<WatchRule | 'new' | null>(null);
  const done = () => void mutate().then(() => setEdited(null));
  const cancel = () => setEdited(null);
  return (
    <>
      <Typography sx={{ color: INK.soft, mb: 1 }}>
        What other people or programs put into a folder is taken in by itself, with the proof of a card, and
        nothing is asked. A file that is still being written is left alone; one that cannot be taken in stays,
        and is named on the Desk.
      </Typography>
      <Problem error={error} />
      {!data && !error && <Loading what="the watched folders" />}
      {data?.map((rule) =>
        edited !== 'new' && edited?.id === rule.id ? (
          <WatchForm key={rule.id} before={rule} onDone={done} onCancel={cancel} />
        ) : (
          <Line key={rule.id} rule={rule} onChange={() => setEdited(rule)} onGone={() => void mutate()} />
        ),
      )}
      {edited === 'new' ? (
        <WatchForm before={null} onDone={done} onCancel={cancel} />
      ) : (
        <Button color="inherit" sx={{ mt: 1 }} onClick={() => setEdited('new')}>
          Watch a folder …
        </Button>
      )}
    </>
  );
}

function Line({ rule, onChange, onGone }: { rule: WatchRule; onChange: () => void; onGone: () => void }) {
  const stop = useAction(async () => {
    await del(`/watch/${rule.id}`);
    onGone();
  });
  return (
    <Box
      role="group"
      aria-label={`Watched folder “${rule.name}”`}
      sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
        <Box sx={{ flex: '1 1 300px', minWidth: 0 }}>
          <Box sx={{ fontWeight: 560 }}>{rule.name}</Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
            {[rule.root, watchState(rule)].filter(Boolean).join(' · ')}
          </Box>
        </Box>
        <Button size="small" color="inherit" onClick={onChange}>
          Change
        </Button>
        <Button size="small" color="inherit" disabled={stop.busy} onClick={() => stop.run()}>
          Watch it no more
        </Button>
      </Box>
      <Problem error={stop.error} />
    </Box>
  );
}
