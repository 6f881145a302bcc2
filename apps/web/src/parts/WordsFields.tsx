import { Box, TextField } from '@mui/material';
import {
  LONGEST_SUBJECT,
  LONGEST_TEXT,
  MESSAGE_FIELDS,
  messageProblem,
  type MessageWords,
} from '@arkiv/core';

const FIELDS = Object.keys(MESSAGE_FIELDS)
  .map((field) => `{${field}}`)
  .join(' ');

/** A message's subject and words, with fields in braces. */
export function WordsFields({
  words,
  onChange,
}: {
  words: MessageWords;
  onChange: (words: MessageWords) => void;
}) {
  const problem = messageProblem(words);
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <TextField
        label="Subject"
        value={words.subject}
        onChange={(event) => onChange({ ...words, subject: event.target.value })}
        slotProps={{ htmlInput: { maxLength: LONGEST_SUBJECT }, inputLabel: { shrink: true } }}
      />
      <TextField
        label="Words"
        value={words.text}
        multiline
        minRows={6}
        maxRows={14}
        error={problem !== null}
        helperText={
          problem ?? `Filled for each: ${FIELDS}. A line whose field has nothing to say is left out.`
        }
        onChange={(event) => onChange({ ...words, text: event.target.value })}
        slotProps={{ htmlInput: { maxLength: LONGEST_TEXT }, inputLabel: { shrink: true } }}
      />
    </Box>
  );
}
