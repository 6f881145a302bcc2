import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A screen that scrolls: title, what it is about in one line, and its parts below. */
export function Page({
  title,
  lead,
  children,
  actions,
}: {
  title: string;
  lead?: ReactNode;
  children: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <Box component="main" sx={{ overflow: 'auto', px: 4, py: 3 }}>
      <Box sx={{ maxWidth: 1180, mx: 'auto' }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 3, mb: 2.5 }}>
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
