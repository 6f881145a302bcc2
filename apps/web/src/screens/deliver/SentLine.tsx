import { Box, Button } from '@mui/material';
import { momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK, STRIKE_TEXT } from '../../theme/theme';
import { sentWords } from './sentWords';

/** How a set got to a destination. */
export function SentLine({ sent }: { sent: Api['SentSetDto'] }) {
  const { id, destination, place, at, finishedAt, carried, confirmedAt, arrived, files } = sent;
  const { run, busy, error } = useAction(() => post(`/sent/${id}/confirm`));
  const short = finishedAt !== null && arrived < files;
  return (
    <Box sx={{ mt: 0.5 }}>
      <Box component="span" title={place}>
        → {destination}, {momentOf(at)}:{' '}
      </Box>
      <Box component="span" sx={{ color: short ? STRIKE_TEXT : INK.soft }}>
        {sentWords(sent)}
      </Box>
      {short && (
        <Box component="span"> · the job says why, and tries again: what arrived is not sent twice</Box>
      )}
      {carried && finishedAt !== null && !short && confirmedAt === null && (
        <Button size="small" color="inherit" disabled={busy} onClick={() => run()}>
          It has arrived
        </Button>
      )}
      <Problem error={error} />
    </Box>
  );
}
