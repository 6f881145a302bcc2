import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { del, post, put, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { DestinationForm } from './DestinationForm';

type Destination = Api['DestinationDto'];

/** Where sets are sent: folders, WebDAV and SFTP servers. */
export function Destinations() {
  const { data, error, mutate } = useGet('/destinations');
  const [edited, setEdited] = useState<Destination | 'new' | null>(null);
  return (
    <>
      <Typography sx={{ color: INK.soft, mb: 1 }}>
        Sets are copied there from Deliver, never moved, and read back: only what came back the same counts as
        arrived.
      </Typography>
      <Problem error={error} />
      {!data && !error && <Loading what="the destinations" />}
      {data?.map((one) =>
        edited !== 'new' && edited?.id === one.id ? (
          <DestinationForm
            key={one.id}
            before={one}
            onDone={() => void mutate().then(() => setEdited(null))}
            onCancel={() => setEdited(null)}
          />
        ) : (
          <Line key={one.id} one={one} onChange={() => setEdited(one)} onGone={() => void mutate()} />
        ),
      )}
      {edited === 'new' ? (
        <DestinationForm
          before={null}
          onDone={() => void mutate().then(() => setEdited(null))}
          onCancel={() => setEdited(null)}
        />
      ) : (
        <Button color="inherit" sx={{ mt: 1 }} onClick={() => setEdited('new')}>
          Add a destination …
        </Button>
      )}
    </>
  );
}

function Line({ one, onChange, onGone }: { one: Destination; onChange: () => void; onGone: () => void }) {
  const [said, setSaid] = useState<'well' | { trusts: string } | null>(null);
  const check = useAction(async () => {
    setSaid(null);
    const { trusts } = await post(`/destinations/${one.id}/check`);
    setSaid(trusts === null ? 'well' : { trusts });
  });
  const trust = useAction(async (key: string) => {
    const { name, kind, reach } = one;
    await put(`/destinations/${one.id}`, { name, kind, reach, trust: key });
    setSaid(null);
    onGone();
    check.run();
  });
  const forget = useAction(async () => {
    await del(`/destinations/${one.id}`);
    onGone();
  });
  const looked = one.kind !== 'sftp' || one.hostKey !== null;
  return (
    <Box
      role="group"
      aria-label={`Destination “${one.name}”`}
      sx={{ py: 1, borderBottom: `1px solid ${GROUND.raised}` }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
        <Box sx={{ flex: '1 1 300px', minWidth: 0 }}>
          <Box sx={{ fontWeight: 560 }}>{one.name}</Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
            {one.place}
            {one.reach.carried && ' · another program carries it on'}
            {one.opens && ' · its password or key is kept encrypted'}
            {!looked && ' · its key was not looked at yet'}
          </Box>
        </Box>
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          disabled={check.busy}
          onClick={() => check.run()}
        >
          {looked ? 'Try it' : 'Look at its key'}
        </Button>
        <Button size="small" color="inherit" onClick={onChange}>
          Change
        </Button>
        <Button size="small" color="inherit" disabled={forget.busy} onClick={() => forget.run()}>
          Forget
        </Button>
      </Box>
      <Box role="status">
        {check.busy && <Box sx={{ color: INK.soft }}>A small file is written there, and read back …</Box>}
        {said === 'well' && <Box>It was written to and read back: sets can be sent there.</Box>}
        {said !== null && said !== 'well' && (
          <Box>
            This server has the key <code style={{ overflowWrap: 'anywhere' }}>{said.trusts}</code>. Compare
            it with what whoever runs it tells you: an imposter would have another one. It has been told
            nothing yet.{' '}
            <Button
              size="small"
              variant="contained"
              disabled={trust.busy}
              onClick={() => trust.run(said.trusts)}
            >
              Trust this key
            </Button>
          </Box>
        )}
      </Box>
      <Problem error={check.error ?? trust.error ?? forget.error} />
    </Box>
  );
}
