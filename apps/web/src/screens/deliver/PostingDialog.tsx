import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useState } from 'react';
import { post } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';

/** The day that it is here, YYYY-MM-DD. */
const today = (): string =>
  new Date(Date.now() - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 10);

/** Enters into the ledger what was posted elsewhere by hand. */
export function PostingDialog({ shootId, onClose }: { shootId: string; onClose: () => void }) {
  const [where, setWhere] = useState('');
  const [day, setDay] = useState(today);
  const [line, setLine] = useState('');
  const { run, busy, error, again } = useAction(async () => {
    await post('/ledger/postings', { shootId, where: where.trim(), day, line: line.trim() });
    onClose();
  });
  const ready = where.trim() !== '' && day !== '';
  return (
    <Dialog open onClose={onClose} aria-labelledby="posting-title" fullWidth maxWidth="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready && !busy) run();
        }}
      >
        <DialogTitle id="posting-title">Enter a posting</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Box sx={{ color: INK.soft }}>
            Nothing is sent: that these frames are online is written into the ledger, and stands with them.
          </Box>
          <TextField
            label="Where it was posted"
            value={where}
            autoFocus
            onChange={(event) => setWhere(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <TextField
            label="Day"
            type="date"
            value={day}
            onChange={(event) => setDay(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label="Which of the keepers, as a line of words and facts; empty: all"
            placeholder="5★ heron"
            value={line}
            onChange={(event) => setLine(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 1000, spellCheck: false }, inputLabel: { shrink: true } }}
          />
          <Problem error={error} again={again} />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!ready || busy}>
            Enter it
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
