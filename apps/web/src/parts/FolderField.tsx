import { Autocomplete, Box, TextField } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { bytes } from '../data/format';
import type { Api } from '../data/http';
import { CAPTION, INK } from '../theme/theme';
import { useSettled } from './useSettled';
import { useGet } from '../data/useGet';

interface Props {
  label: string;
  value: string;
  onChange: (path: string) => void;
  /** places offered before anything is typed */
  suggestions?: readonly Api['SuggestedPlaceDto'][];
  help?: ReactNode;
  required?: boolean;
  autoFocus?: boolean;
}

/** Milliseconds without a key before the folders below are asked for. */
const PAUSE = 120;

/** A folder of the server's machine: typed, with the folders below offered, or one of the places suggested. */
export function FolderField({ label, value, onChange, suggestions = [], help, required, autoFocus }: Props) {
  const [open, setOpen] = useState(false);
  const typed = useSettled(value, PAUSE);
  const { data: below = [] } = useGet(
    open && typed.startsWith('/') ? `/volumes/folders?from=${encodeURIComponent(typed)}` : null,
    { keepPreviousData: true },
  );
  const known = new Map(suggestions.map((place) => [place.path, place]));
  return (
    <Autocomplete
      freeSolo
      open={open}
      onOpen={() => setOpen(true)}
      onClose={() => setOpen(false)}
      options={value === '' ? [...known.keys()] : below.filter((path) => path !== value)}
      filterOptions={(options) => options}
      inputValue={value}
      onInputChange={(_, path, reason) => reason !== 'reset' && onChange(path)}
      onChange={(_, path) => path !== null && onChange(path)}
      renderOption={({ key, ...props }, path) => (
        <Box component="li" key={key} {...props}>
          <Box sx={{ flex: 1, overflowWrap: 'anywhere' }}>{path}</Box>
          {known.has(path) && (
            <Box sx={{ ...CAPTION, color: INK.soft, whiteSpace: 'nowrap', ml: 2 }}>
              {known.get(path)!.name} · {bytes(known.get(path)!.free)} free
            </Box>
          )}
        </Box>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          required={required}
          autoFocus={autoFocus}
          helperText={help}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, spellCheck: false },
            inputLabel: { ...params.slotProps.inputLabel, shrink: true },
          }}
        />
      )}
    />
  );
}
