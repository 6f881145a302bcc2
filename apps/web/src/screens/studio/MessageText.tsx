import { Box, Button } from '@mui/material';
import { messageProblem, type MessageWords } from '@arkiv/core';
import { useState } from 'react';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { WordsFields } from '../../parts/WordsFields';
import { INK } from '../../theme/theme';

interface Props {
  label: string;
  words: MessageWords;
  keep: (words: MessageWords) => Promise<unknown>;
}

/** One of the studio's messages: its subject in a line, or open to be written. */
export function MessageText({ label, words, keep }: Props) {
  const [written, setWritten] = useState<MessageWords | null>(null);
  const { run, busy, error, again } = useAction(async () => {
    await keep(written!);
    setWritten(null);
  });
  return (
    <Box role="group" aria-label={label} sx={{ maxWidth: 640, mt: 1.5 }}>
      <b>{label}</b>
      {written === null ? (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
          <span style={{ color: INK.soft }}>{words.subject}</span>
          <Button
            size="small"
            color="inherit"
            aria-label={`Change: ${label}`}
            onClick={() => setWritten(words)}
          >
            Change
          </Button>
        </Box>
      ) : (
        <Box
          component="form"
          sx={{ mt: 1.5 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (messageProblem(written) === null && !busy) run();
          }}
        >
          <WordsFields words={written} onChange={setWritten} />
          <Problem error={error} again={again} />
          <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <Button type="submit" variant="contained" disabled={messageProblem(written) !== null || busy}>
              Keep it
            </Button>
            <Button color="inherit" onClick={() => setWritten(null)}>
              Leave it
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
