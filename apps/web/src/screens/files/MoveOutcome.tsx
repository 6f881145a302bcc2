import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { alongWords } from './alongWords';
import { WayList } from '../../parts/WayList';
import { GROUND, INK } from '../../theme/theme';

interface Props {
  plan: Api['MovePlanDto'] | null;
  error: unknown;
  /** what the button says */
  words: string;
  /** said where no file would move */
  none?: string;
  /** said before what happens to the files */
  about?: string;
  run: () => Promise<void>;
}

/** What a move would do to the files, each on request, and the button that does it. */
export function MoveOutcome({
  plan,
  error,
  words,
  none = 'No file would change its place.',
  about = '',
  run,
}: Props) {
  const [open, setOpen] = useState(false);
  const { run: start, busy, error: trouble, again } = useAction(run);
  return (
    <Box sx={{ mt: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Box sx={{ flex: 1, color: INK.soft }}>
          {plan &&
            (plan.files === 0
              ? none
              : `${about}${about && ' '}${many(plan.files, 'file')} of ${many(plan.frames, 'frame')} with their sidecars${alongWords(plan)}, on every drive. Nothing is overwritten; it can be undone.`)}
        </Box>
        {plan && plan.files > 0 && (
          <Button size="small" color="inherit" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'Close the list' : 'Where each file goes'}
          </Button>
        )}
        <Button
          variant="outlined"
          color="inherit"
          disabled={busy || !plan || plan.files === 0 || plan.problems.length > 0}
          onClick={() => start()}
        >
          {busy ? 'Moving …' : words}
        </Button>
      </Box>
      {plan?.problems[0] && <Problem error={new Error(plan.problems[0])} />}
      <Problem error={error} />
      <Problem error={trouble} again={again} />
      {open && plan && (
        <Box sx={{ height: 240, display: 'flex', mt: 1, bgcolor: GROUND.deep }}>
          <WayList ways={plan.ways} problems={plan.problems} />
        </Box>
      )}
    </Box>
  );
}
