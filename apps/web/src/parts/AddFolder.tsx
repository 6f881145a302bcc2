import { Box, Button } from '@mui/material';
import { lazy, Suspense, useState } from 'react';
import type { AddFolderFormProps } from './AddFolderForm';

// Fields that offer folders while they are typed in are a tenth of what the first page would load.
const AddFolderForm = lazy(() => import('./AddFolderForm').then((m) => ({ default: m.AddFolderForm })));

interface Props extends Omit<AddFolderFormProps, 'onClose'> {
  /** what the closed form says */
  words: string;
}

/** Names a folder of this machine: a drive, or a place to take in from. */
export function AddFolder({ words, ...form }: Props) {
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <Button color="inherit" size="small" sx={{ mt: 1, px: 0 }} onClick={() => setOpen(true)}>
        {words}
      </Button>
    );
  }
  return (
    <Suspense fallback={<Box sx={{ mt: 1.5, minHeight: 80 }} />}>
      <AddFolderForm {...form} onClose={() => setOpen(false)} />
    </Suspense>
  );
}
