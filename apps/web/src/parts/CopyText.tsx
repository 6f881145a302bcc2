import { Button } from '@mui/material';
import { useState } from 'react';

/** Puts a text into the clipboard; `say`: what the button calls it. */
export function CopyText({ text, say = 'Copy path' }: { text: string; say?: string }) {
  const [said, setSaid] = useState(say);
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
