import { Box, Chip, TextField } from '@mui/material';
import { describePatternProblem, NAME_FIELDS, parsePattern, type NameField } from '@arkiv/core';
import { useRef, type ReactNode } from 'react';
import { INK } from '../theme/theme';

/** What a chip puts into the pattern; dates and numbers come with a format that can be changed by typing. */
const INSERTS: Partial<Record<NameField, string>> = {
  capture: '{capture:yyyyMMdd}',
  number: '{number:4}',
};

interface Props {
  label: string;
  value: string;
  /** fields offered as chips */
  fields: readonly NameField[];
  onChange: (value: string) => void;
  help?: ReactNode;
  /** may be left empty */
  optional?: boolean;
  rows?: number;
}

/** A pattern: typed, or put together from the chips below it, each of which goes in where the cursor stands. */
export function PatternField({ label, value, fields, onChange, help, optional, rows }: Props) {
  const input = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  const parsed = parsePattern(value);
  const problem = parsed.ok
    ? value === '' && !optional
      ? 'Empty: put at least one field in.'
      : null
    : describePatternProblem(value, parsed.problem);
  const insert = (field: NameField) => {
    const text = INSERTS[field] ?? `{${field}}`;
    const at = input.current?.selectionStart ?? value.length;
    const to = input.current?.selectionEnd ?? at;
    onChange(value.slice(0, at) + text + value.slice(to));
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(at + text.length, at + text.length);
    });
  };
  return (
    <Box>
      <TextField
        label={label}
        value={value}
        fullWidth
        error={problem !== null}
        onChange={(event) => onChange(event.target.value)}
        inputRef={input}
        helperText={problem ?? help}
        multiline={rows !== undefined}
        rows={rows}
        slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
      />
      {fields.length > 0 && (
        <Box
          sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mt: 0.5 }}
          role="group"
          aria-label={`Fields for ${label}`}
        >
          {fields.map((field) => (
            <Chip
              key={field}
              size="small"
              variant="outlined"
              label={field}
              title={NAME_FIELDS[field]}
              onClick={() => insert(field)}
              sx={{ borderRadius: 0, color: INK.soft, height: 22 }}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}
