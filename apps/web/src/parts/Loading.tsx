import { Box, CircularProgress } from '@mui/material';
import { INK } from '../theme/theme';

/** Something is on its way: never to be taken for “there is none”. */
export function Loading({ what }: { what: string }) {
  return (
    <Box
      role="status"
      sx={{ height: '100%', minHeight: 96, display: 'grid', placeItems: 'center', color: INK.soft }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <CircularProgress size={18} color="inherit" aria-hidden />
        Loading {what} …
      </Box>
    </Box>
  );
}
