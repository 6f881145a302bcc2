import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { many } from '../data/format';
import { STRIKE_TEXT } from '../theme/theme';

/**
 * The last question before files are deleted: only the number of frames, typed, opens the button. Key it by what it is
 * about, so that another number is typed anew.
 */
export function TypedNumber({
  frames,
  said,
  busy,
  onDelete,
  onCancel,
}: {
  frames: number;
  /** what is deleted, and where */
  said: string;
  busy: boolean;
  onDelete: (typed: number) => void;
  onCancel?: () => void;
}) {
  const [typed, setTyped] = useState('');
  const matches = typed.trim() === String(frames);
  return (
    <Box
      component="form"
      aria-label={`Delete ${many(frames, 'frame')}`}
      sx={{ mt: 1 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (matches && !busy) onDelete(frames);
      }}
    >
      <Box sx={{ color: STRIKE_TEXT, mb: 1 }}>{said}</Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <TextField
          size="small"
          label={`Type ${frames} to delete`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          slotProps={{ htmlInput: { inputMode: 'numeric', autoComplete: 'off', maxLength: 9 } }}
          sx={{ width: 190 }}
        />
        <Button type="submit" variant="outlined" color="inherit" disabled={!matches || busy}>
          {busy ? 'Deleting …' : `Delete ${many(frames, 'frame')}`}
        </Button>
        {onCancel && (
          <Button color="inherit" onClick={onCancel}>
            Cancel
          </Button>
        )}
      </Box>
    </Box>
  );
}
