import { TextField } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { STRIKE_TEXT } from '../../theme/theme';
import { ApiFailure } from '../../data/http';

interface Props {
  label: string;
  value: string;
  /** keeps the new text; what it throws is shown */
  keep: (text: string) => Promise<unknown>;
  help?: ReactNode;
  placeholder?: string;
  /** why this text cannot be kept, or null */
  check?: (text: string) => string | null;
  hideLabel?: boolean;
}

/** A text that is kept when it is left or confirmed with Enter; Escape gives back what was there. */
export function KeptField({ label, value, keep, help, placeholder, check, hideLabel }: Props) {
  const [text, setText] = useState(value);
  const [state, setState] = useState<'' | 'kept' | Error>('');
  useEffect(() => setText(value), [value]);
  const problem = check?.(text) ?? (state instanceof Error ? wordsOf(state) : null);
  const done = async () => {
    if (text === value || check?.(text)) return;
    try {
      await keep(text);
      setState('kept');
    } catch (error) {
      setState(error as Error);
    }
  };
  return (
    <TextField
      label={hideLabel ? undefined : label}
      value={text}
      fullWidth
      placeholder={placeholder}
      error={problem !== null}
      helperText={
        problem ? <span style={{ color: STRIKE_TEXT }}>{problem}</span> : state === 'kept' ? 'Kept.' : help
      }
      onChange={(event) => {
        setText(event.target.value);
        setState('');
      }}
      onBlur={() => void done()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void done();
        if (event.key === 'Escape') setText(value);
      }}
      slotProps={{ htmlInput: { 'aria-label': label }, inputLabel: { shrink: true } }}
    />
  );
}

const wordsOf = (error: Error): string =>
  error instanceof ApiFailure ? `${error.body.message} ${error.body.next}` : error.message;
