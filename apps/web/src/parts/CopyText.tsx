import { Button } from '@mui/material';
import { useState } from 'react';

/** Puts a path into the clipboard. */
export function CopyText({ text }: { text: string }) {
  const [said, setSaid] = useState('Copy path');
  return (
    <Button
      size="small"
      color="inherit"
      sx={{ px: 1, py: 0, minWidth: 0 }}
      aria-label={`${said}: ${text}`}
      // Beyond this computer, a browser gives the clipboard to pages over HTTPS only.
      onClick={() =>
        void Promise.resolve()
          .then(() => navigator.clipboard.writeText(text))
          .then(
            () => setSaid('Copied'),
            () => setSaid('Select the text to copy it'),
          )
      }
    >
      {said}
    </Button>
  );
}
