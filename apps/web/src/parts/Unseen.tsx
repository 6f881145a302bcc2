import { visuallyHidden } from '@mui/utils';
import type { ReactNode } from 'react';

/** Words for those who hear the screen; nobody sees them. */
export function Unseen({ children, status }: { children: ReactNode; status?: string }) {
  return (
    <span role={status && 'status'} aria-label={status} style={visuallyHidden}>
      {children}
    </span>
  );
}
