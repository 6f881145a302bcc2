import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../data/format';
import { post, type Api } from '../data/http';
import { useGet } from '../data/useGet';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { GROUND, INK } from '../theme/theme';
import { Tick } from './Tick';

interface Props {
  shootId: string;
  drive: { id: string; name: string };
  /** with the job that was begun, if one was */
  onEnd: (jobId?: string) => void;
}

/** Taking a shoot off one drive: what would go, what proves it elsewhere, what stays. */
export function TakeOff({ shootId, drive, onEnd }: Props) {
  const [butKeepers, setButKeepers] = useState(false);
  const { data: plan, error } = useGet(
    `/copies/release?shootId=${shootId}&volumeId=${drive.id}&butKeepers=${butKeepers}`,
  );
  const {
    run,
    busy,
    error: trouble,
    again,
  } = useAction(async () => {
    onEnd((await post('/copies/release', { shootId, volumeId: drive.id, butKeepers })).jobId);
  });
  const going = plan ? plan.files - plan.stay : 0;
  return (
    <Box
      role="group"
      aria-label={`Take the shoot off ${drive.name}`}
      sx={{ bgcolor: GROUND.raised, p: 1.5, mb: 1 }}
    >
      <Box role="status">
        {plan && wordsOf(plan, going, drive.name)}
        {plan && plan.stay > 0 && going > 0 && (
          <Box sx={{ color: INK.soft }}>
            {many(plan.stay, 'file has', 'files have')} fewer than {plan.required} copies elsewhere and{' '}
            {plan.stay === 1 ? 'stays' : 'stay'}.
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mt: 1 }}>
        <Tick checked={butKeepers} onChange={setButKeepers}>
          all but the keepers, which stay there
        </Tick>
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={() => onEnd()}>
          Cancel
        </Button>
        <Button variant="contained" disabled={busy || going === 0} onClick={() => run()}>
          Take {many(going, 'file')} off “{drive.name}”
        </Button>
      </Box>
      <Problem error={error} />
      <Problem error={trouble} again={again} />
    </Box>
  );
}

function wordsOf(plan: Api['ReleasePlanDto'], going: number, drive: string): string {
  if (plan.files === 0) return `“${drive}” holds nothing of it that could be taken off.`;
  if (going === 0)
    return `Nothing can be taken off: no file has ${plan.required} good copies on other drives. Copy the shoot to another drive first.`;
  const others = plan.elsewhere.map((name) => `“${name}”`).join(' and ');
  return `${bytes(plan.bytes)} in all. Each file is read again here and on ${others}; only what proves good ${plan.required} times elsewhere is deleted from “${drive}”, the rest stays. It can be copied back.`;
}
