import { Link } from '@mui/material';
import type { ReactNode } from 'react';
import { Link as RouterLink } from 'react-router';

export function TextLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link component={RouterLink} to={to} color="inherit" sx={{ textUnderlineOffset: 3 }}>
      {children}
    </Link>
  );
}
