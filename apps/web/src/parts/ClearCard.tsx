import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { many } from '../data/format';
import { post } from '../data/http';
import { isOpen, useJobs, useSettings } from '../data/live';
import { JobCard } from './JobCard';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { useGet } from '../data/useGet';

interface Props {
  readerId: string;
  card: string;
  /** files of the card with enough verified copies, as far as the archive knows without reading */
  proven: number;
  total: number;
}

/** Clearing a card: says what will be deleted and how it is proven first, asks, and shows how far it is. */
export function ClearCard({ readerId, card, proven, total }: Props) {
  const [asking, setAsking] = useState(false);
  const { data: jobs } = useJobs();
  const { data: settings } = useSettings();
  const { data: summary } = useGet(
    asking ? `/readers/${readerId}/summary?card=${encodeURIComponent(card)}` : null,
  );
  const running = jobs?.find(
    (job) => job.kind === 'clear' && job.readerId === readerId && job.card === card && isOpen(job),
  );
  const copies = settings?.requiredCopies ?? 2;
  const {
    run: clear,
    busy: starting,
    error,
  } = useAction(async () => {
    await post(`/readers/${readerId}/clear`, { fingerprint: summary!.fingerprint });
    setAsking(false);
  });
  if (running)
    return (
      <Box sx={{ minWidth: 340 }}>
        <JobCard job={running} />
      </Box>
    );
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-label={`Clear …: ${card}`}
        onClick={() => setAsking(true)}
      >
        Clear …
      </Button>
      {asking && (
        <Dialog
          open
          onClose={() => setAsking(false)}
          aria-labelledby="clear-title"
          slotProps={{ paper: { sx: { borderRadius: 0, maxWidth: 560 } } }}
        >
          <DialogTitle id="clear-title">
            Delete {proven === total ? `all ${many(total, 'file')}` : `${proven} of ${many(total, 'file')}`}{' '}
            from “{card}”?
          </DialogTitle>
          <DialogContent>
            <Typography>
              Each file on the card is read once more, and so are its copies on{' '}
              {many(copies, 'different drive')}. A file is deleted only when all of them are identical at that
              moment. What does not prove good stays on the card and is listed.
            </Typography>
            <Typography sx={{ color: 'text.secondary', mt: 1 }}>
              Only this deletes anything on a card. It cannot be undone; it can be stopped between two files.
            </Typography>
            <Problem error={error} />
          </DialogContent>
          <DialogActions>
            <Button color="inherit" autoFocus onClick={() => setAsking(false)}>
              Keep the card as it is
            </Button>
            <Button variant="contained" color="error" disabled={!summary || starting} onClick={() => clear()}>
              Verify again and delete
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}
