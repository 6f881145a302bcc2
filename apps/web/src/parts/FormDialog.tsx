import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  type DialogProps,
  type SxProps,
} from '@mui/material';
import { useId, type ReactNode } from 'react';

interface Props {
  title: string;
  /** what its button does */
  deed: string;
  /** whether that can be done as things stand */
  ready: boolean;
  /** it is being done */
  busy: boolean;
  width: DialogProps['maxWidth'];
  /** nothing is typed or chosen in it: Enter does what its button does all the same */
  onlyAsks?: boolean;
  sx?: SxProps;
  onSubmit: () => void;
  onClose: () => void;
  children: ReactNode;
}

/** A form in a dialog: Enter does what its button does, and what does not fit is scrolled between its title and its buttons. */
export function FormDialog({
  title,
  deed,
  ready,
  busy,
  width,
  onlyAsks,
  sx,
  onSubmit,
  onClose,
  children,
}: Props) {
  const id = useId();
  return (
    <Dialog open onClose={onClose} aria-labelledby={id} fullWidth maxWidth={width}>
      <form
        style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (ready && !busy) onSubmit();
        }}
      >
        <DialogTitle id={id}>{title}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, ...(sx as object) }}>{children}</DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" autoFocus={onlyAsks} disabled={!ready || busy}>
            {deed}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
