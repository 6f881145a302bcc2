import { Box } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import type { ReactNode } from 'react';

/** Words for those who hear the screen; nobody sees them. */
export function Unseen({ children, status }: { children: ReactNode; status?: string }) {
  return (
    <Box component="span" role={status && 'status'} aria-label={status} style={visuallyHidden}>
      {children}
    </Box>
  );
}
