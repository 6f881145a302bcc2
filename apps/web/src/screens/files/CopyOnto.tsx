import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { post, type Api } from '../../data/http';
import { useVolumes } from '../../data/live';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { Tick } from '../../parts/Tick';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';
import { goesWords, isNothing } from './copyWords';

/** The shoot, or its keepers alone, onto a drive of one’s choice: each copy is read back before it counts. */
export function CopyOnto({ shoot }: { shoot: Api['ShootDto'] }) {
  const { data: volumes = [] } = useVolumes();
  const [to, setTo] = useState('');
  const [keepers, setKeepers] = useState(false);
  const [wanted, setPreviews] = useState(false);
  // With the whole shoot all pictures are there to be looked at.
  const previews = keepers && wanted;
  const query = `shootId=${shoot.id}&to=${to}&keepers=${keepers}&previews=${previews}` as const;
  const { data: plan, error, mutate } = useGet(to === '' ? null : `/copies/missing?${query}`);
  const {
    run,
    busy,
    error: trouble,
    again,
  } = useAction(async () => {
    await post('/copies/missing', { shootId: shoot.id, to, keepers, previews });
    await mutate();
  });
  const drives = volumes.filter(({ role }) => role !== 'edit');
  if (drives.length === 0) return null;
  const name = drives.find(({ id }) => id === to)?.name ?? '';
  return (
    <Box role="group" aria-label="Copy to another drive" sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2 }}>
        <TextField
          select
          label="Copy to a drive"
          value={to}
          onChange={(event) => setTo(event.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ flex: '1 1 200px', maxWidth: 320 }}
        >
          <option value="">choose one …</option>
          {drives.map(({ id, name: its, online }) => (
            <option key={id} value={id} disabled={!online}>
              {its}
              {online ? '' : ', not connected'}
            </option>
          ))}
        </TextField>
        <Tick checked={keepers} onChange={setKeepers}>
          the keepers alone
        </Tick>
        {keepers && (
          <Tick checked={wanted} onChange={setPreviews}>
            and previews of the others, to go on culling without their files
          </Tick>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
        <Box role="status" sx={{ flex: 1, minWidth: 0, color: INK.soft }}>
          {to !== '' && plan && goesWords(plan, name, { keepers: keepers ? shoot.keepers : null, previews })}
        </Box>
        <Button
          variant="outlined"
          color="inherit"
          disabled={to === '' || busy || !plan || isNothing(plan)}
          onClick={() => run()}
        >
          Copy to “{name || '…'}”
        </Button>
      </Box>
      <Problem error={error} />
      <Problem error={trouble} again={again} />
    </Box>
  );
}
