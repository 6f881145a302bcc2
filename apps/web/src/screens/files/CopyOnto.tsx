import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useVolumes } from '../../data/live';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';

/** The shoot, or its keepers alone, onto a drive of one’s choice: each copy is read back before it counts. */
export function CopyOnto({ shoot }: { shoot: Api['ShootDto'] }) {
  const { data: volumes = [] } = useVolumes();
  const [to, setTo] = useState('');
  const [keepers, setKeepers] = useState(false);
  const query = `shootId=${shoot.id}&to=${to}&keepers=${keepers}` as const;
  const { data: plan, error, mutate } = useGet(to === '' ? null : `/copies/missing?${query}`);
  const {
    run,
    busy,
    error: trouble,
    again,
  } = useAction(async () => {
    await post('/copies/missing', { shootId: shoot.id, to, keepers });
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
          sx={{ minWidth: 200 }}
        >
          <option value="">choose one …</option>
          {drives.map(({ id, name: its, online }) => (
            <option key={id} value={id} disabled={!online}>
              {its}
              {online ? '' : ', not connected'}
            </option>
          ))}
        </TextField>
        <label style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
          <input
            type="checkbox"
            style={{ accentColor: INK.full }}
            checked={keepers}
            onChange={(event) => setKeepers(event.target.checked)}
          />
          the keepers alone
        </label>
        <Box role="status" sx={{ flex: 1, minWidth: 200, color: INK.soft }}>
          {to !== '' &&
            plan &&
            (plan.files === 0
              ? `“${name}” holds ${keepers ? 'all keepers' : 'all of it'} already.`
              : `${many(plan.files, 'file')}, ${bytes(plan.bytes)}, with their sidecars; each is read back. Nothing is taken from elsewhere.`)}
        </Box>
        <Button
          variant="outlined"
          color="inherit"
          disabled={to === '' || busy || !plan || plan.files === 0}
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
