import { Button } from '@mui/material';
import type { FallbackProps } from 'react-error-boundary';
import { Link } from 'react-router';
import { Page } from './Page';
import { Problem } from './Problem';

/** A screen that could not be drawn: the others are there all the same, and what was marked is safe. */
export function ScreenFailed({ error, resetErrorBoundary }: FallbackProps) {
  return (
    <Page
      title="This screen failed"
      lead="It is a fault of Arkiv’s. Your files and your marks are not touched by it; every other screen works."
    >
      <Problem error={error instanceof Error ? error : new Error(String(error))} />
      <Button variant="outlined" color="inherit" onClick={resetErrorBoundary} sx={{ mr: 1 }}>
        Try again
      </Button>
      <Button component={Link} to="/" color="inherit">
        To the Desk
      </Button>
    </Page>
  );
}
