import { Autocomplete, Box, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { findOnRosters, rosters, type FoundEntry, type Term } from '@arkiv/core';
import { useMemo, useState } from 'react';
import type { KnownTerms } from '../../data/vocabulary';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';
import { GROUND, INK } from '../../theme/theme';

interface Props {
  terms: KnownTerms;
  /** ids of the terms whose lists this shoot uses */
  used: readonly string[];
  onUse: (used: readonly string[]) => Promise<unknown>;
  /** who was meant by a number; `caption`: the name goes there too */
  onGive: (entry: FoundEntry, caption: boolean) => void;
}

/** Names by their numbers: the lists that this shoot uses, and a field that takes a number after the other. */
export function RosterLine({ terms, used, onUse, onGive }: Props) {
  const { vocabulary } = terms;
  const all = useMemo(() => rosters(vocabulary), [vocabulary]);
  const [typed, setTyped] = useState('');
  const [caption, setCaption] = useKeptState('describe.rosterCaption', true);
  const found = useMemo(() => findOnRosters(vocabulary, used, typed), [vocabulary, used, typed]);
  const { run: use, error } = useAction(onUse);
  if (all.length === 0) return null;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Autocomplete<Term, true>
        multiple
        size="small"
        options={all}
        getOptionLabel={({ word }) => word}
        getOptionKey={({ id }) => id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        value={all.filter(({ id }) => used.includes(id))}
        onChange={(_, chosen) => use(chosen.map(({ id }) => id))}
        renderInput={(params) => (
          <TextField
            {...params}
            label="Numbered lists of this shoot"
            slotProps={{ ...params.slotProps, inputLabel: { ...params.slotProps.inputLabel, shrink: true } }}
          />
        )}
      />
      <Problem error={error} />
      {used.length > 0 && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.25, alignItems: 'center' }}>
          <Autocomplete<FoundEntry>
            sx={{ flex: 1, minWidth: 160 }}
            autoHighlight
            options={found}
            filterOptions={(options) => options}
            noOptionsText={typed === '' ? 'Type a number' : 'Nobody has this number'}
            getOptionLabel={({ number, word }) => `${number} ${word}`}
            getOptionKey={({ term }) => term.id}
            value={null}
            inputValue={typed}
            onInputChange={(_, value, reason) => reason !== 'reset' && setTyped(value)}
            onChange={(_, entry) => {
              if (!entry) return;
              setTyped('');
              onGive(entry, caption);
            }}
            renderOption={({ key, ...props }, { number, word, roster }) => (
              <li key={key} {...props}>
                <Box component="span" sx={{ bgcolor: GROUND.line, px: 0.75, mr: 1 }}>
                  {number}
                </Box>
                {word}
                <Box component="span" sx={{ color: INK.soft, fontSize: 12.5, ml: 1 }}>
                  {roster.word}
                </Box>
              </li>
            )}
            renderInput={(params) => (
              <TextField
                {...params}
                label="Number"
                slotProps={{
                  ...params.slotProps,
                  inputLabel: { ...params.slotProps.inputLabel, shrink: true },
                  htmlInput: { ...params.slotProps.htmlInput, 'data-field': 'roster' },
                }}
              />
            )}
          />
          <FormControlLabel
            control={<Checkbox size="small" checked={caption} onChange={(_, on) => setCaption(on)} />}
            label="in the caption too"
          />
        </Box>
      )}
    </Box>
  );
}
