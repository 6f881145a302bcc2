import { Box, Typography } from '@mui/material';
import { useId, type ReactNode } from 'react';
import { GROUND } from '../theme/theme';

/** A part of a screen under a ruled heading. */
export function Section({
  title,
  aside,
  children,
}: {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <Box component="section" aria-labelledby={id} sx={{ mb: 4 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'baseline',
          borderTop: `1px solid ${GROUND.line}`,
          pt: 1,
          mb: 1.25,
          gap: 2,
        }}
      >
        <Typography id={id} variant="h2" component="h2" sx={{ flex: 1 }}>
          {title}
        </Typography>
        {aside}
      </Box>
      {children}
    </Box>
  );
}
