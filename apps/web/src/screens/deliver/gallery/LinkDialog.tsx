import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useState } from 'react';
import { post } from '../../../data/http';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import { INK } from '../../../theme/theme';
import { RightsPart } from './RightsPart';

/** An address of its own for one person. */
export function LinkDialog({ galleryId, onClose }: { galleryId: string; onClose: () => void }) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [withCode, setWithCode] = useState(true);
  const [rights, setRights] = useState({ choose: false, remark: true, download: false });
  const { run, busy, error, again } = useAction(async () => {
    await post(`/galleries/${galleryId}/links`, {
      ...{ name: name.trim(), withCode, rights },
      ...(email.trim() !== '' && { email: email.trim() }),
    });
    onClose();
  });
  const ready = name.trim() !== '';
  return (
    <Dialog open onClose={onClose} aria-labelledby="link-title" fullWidth maxWidth="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready && !busy) run();
        }}
      >
        <DialogTitle id="link-title">A link for one person</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <TextField
            label="Whom it is for"
            value={name}
            autoFocus
            sx={{ mt: 1 }}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 60 }, inputLabel: { shrink: true } }}
          />
          <TextField
            label="E-mail, if known"
            type="email"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <RightsPart rights={rights} onChange={setRights} />
          <label style={{ display: 'flex', gap: 8, alignItems: 'center' }}>
            <input
              type="checkbox"
              style={{ accentColor: INK.full }}
              checked={withCode}
              onChange={() => setWithCode(!withCode)}
            />
            Ask for a pass code
          </label>
          <Problem error={error} again={again} />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!ready || busy}>
            Make the link
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
