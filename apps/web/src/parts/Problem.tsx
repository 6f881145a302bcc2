import { Box, Button, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { ApiFailure } from '../data/http';
import { STRIKE, STRIKE_TEXT } from '../theme/theme';

/** What went wrong, and what to do next; `again` tries it once more. */
export function Problem({ error, again }: { error: unknown; again?: () => void }) {
  if (!error) return null;
  const message = (error as Error).message;
  const next = error instanceof ApiFailure ? error.body.next : '';
  return (
    <Box role="alert" sx={{ display: 'flex', gap: 1.5, my: 1.5 }}>
      <Box
        sx={{ width: 18, height: 3, mt: '9px', flex: 'none', bgcolor: STRIKE, transform: 'rotate(-14deg)' }}
      />
      <Typography>
        <Box component="span" sx={{ color: STRIKE_TEXT }}>
          {shownName(message)}
        </Box>{' '}
        {shownName(next)}
      </Typography>
      {again && (
        <Button
          size="small"
          color="inherit"
          sx={{ flex: 'none', alignSelf: 'flex-start', py: 0 }}
          onClick={again}
        >
          Try again
        </Button>
      )}
    </Box>
  );
}
