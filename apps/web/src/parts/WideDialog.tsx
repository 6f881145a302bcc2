import { Dialog, DialogTitle } from '@mui/material';
import { useId, type ReactNode } from 'react';

interface Props {
  title: string;
  /** pixels; less where the window is smaller */
  width: number;
  onClose: () => void;
  children: ReactNode;
}

/** A dialog that is a work place of its own: nearly as high as the window, under its title. */
export function WideDialog({ title, width, onClose, children }: Props) {
  const id = useId();
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth={false}
      aria-labelledby={id}
      slotProps={{ paper: { sx: { width, height: '92vh', borderRadius: 0 } } }}
    >
      <DialogTitle id={id} sx={{ pb: 0.5 }}>
        {title}
      </DialogTitle>
      {children}
    </Dialog>
  );
}
