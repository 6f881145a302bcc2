import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { useScreenTitle } from './screenTitle';

/** A screen that scrolls: title, what it is about in one line, and its parts below. */
export function Page({
  title,
  of = '',
  lead,
  children,
  actions,
}: {
  title: string;
  /** whose screen it is, for the window's title: several may be open */
  of?: string;
  lead?: ReactNode;
  children: ReactNode;
  actions?: ReactNode;
}) {
  useScreenTitle(of === '' ? title : `${title} · ${of}`);
  return (
    <Box component="main" sx={{ overflow: 'auto', px: { xs: 2, md: 4 }, py: 3 }}>
      <Box sx={{ maxWidth: 1180, mx: 'auto' }}>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', gap: 3, mb: 2.5 }}>
          <Box sx={{ flex: 1 }}>
            <Typography variant="h1">{title}</Typography>
            {lead && <Typography sx={{ color: 'text.secondary', mt: 0.5 }}>{lead}</Typography>}
          </Box>
          {actions}
        </Box>
        {children}
      </Box>
    </Box>
  );
}
