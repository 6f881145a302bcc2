import { Autocomplete, Box, TextField } from '@mui/material';
import { keywordKey, keywordsOf, tidy, type WordSet } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { count } from '../../data/format';
import { keepSet, lastSets } from '../../data/lastSets';
import type { LoadedFrame } from '../../data/frames';
import { suggested, wordsIn, type KeywordOf } from '../../data/words';
import { GROUND, INK } from '../../theme/theme';

interface Props {
  name: string;
  label: string;
  set: WordSet;
  /** those that are meant */
  frames: readonly LoadedFrame[];
  /** words that are offered, the most frequent first */
  known: readonly KeywordOf[];
  onGive: (words: readonly string[]) => void;
  onTake: (word: string) => void;
}

/** Words that are offered at once: what an eye takes in. */
const OFFERED = 9;

/** Keywords or persons of the frames that are meant: what all have, what some have, and more as they are typed. */
export function WordsField({ name, label, set, frames, known, onGive, onTake }: Props) {
  const words = useMemo(() => wordsIn(frames.map((frame) => frame[set])), [frames, set]);
  const [typed, setTyped] = useState('');
  const [sets, setSets] = useState(lastSets);
  const offers = useMemo(() => {
    const has = words.filter(({ frames: n }) => n === frames.length).map(({ word }) => word);
    // Before anything is typed, the sets that were given last; then what is there already.
    const last = typed === '' && set === 'keywords' ? sets.filter((one) => one.includes(',')) : [];
    return [...last, ...suggested(typed, known, has, OFFERED)].slice(0, OFFERED + 1);
  }, [words, frames.length, typed, sets, known, set]);
  const give = (text: string) => {
    const given = keywordsOf(text);
    setTyped('');
    if (given.length === 0) return;
    if (set === 'keywords') {
      keepSet(text);
      setSets(lastSets());
    }
    onGive(given);
  };
  return (
    <Box>
      {words.length > 0 && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mb: 1 }} aria-label={label} role="group">
          {words.map(({ word, frames: n }) => {
            const every = n === frames.length;
            return (
              <Box
                key={keywordKey(word)}
                component="button"
                type="button"
                title={every ? 'A click takes it off' : 'Some have it; a click gives it to all'}
                onClick={() => (every ? onTake(word) : onGive([word]))}
                sx={{
                  ...{ font: 'inherit', fontSize: 13, px: 0.9, py: 0.2, cursor: 'pointer', color: INK.full },
                  bgcolor: every ? GROUND.line : 'transparent',
                  border: `1px ${every ? 'solid' : 'dashed'} ${every ? GROUND.line : INK.faint}`,
                  '&:hover': { borderColor: INK.full },
                }}
              >
                {word}
                {every ? (
                  <Box component="span" aria-hidden sx={{ color: INK.faint, ml: 0.75 }}>
                    ×
                  </Box>
                ) : (
                  <Box component="small" sx={{ color: INK.soft, ml: 0.75 }}>
                    {count(n)} of {count(frames.length)}
                  </Box>
                )}
              </Box>
            );
          })}
        </Box>
      )}
      <Autocomplete
        freeSolo
        openOnFocus={false}
        options={offers}
        // What is typed was looked for already.
        filterOptions={(options) => options}
        value={null}
        inputValue={typed}
        onInputChange={(_, value, reason) => reason !== 'reset' && setTyped(value)}
        onChange={(_, value) => value !== null && give(value)}
        renderInput={(params) => (
          <TextField
            {...params}
            label={label}
            placeholder={words.length === 0 ? 'parted by commas' : 'more, parted by commas'}
            onBlur={() => tidy(typed) !== '' && give(typed)}
            onKeyDown={(event) => event.key === 'Escape' && setTyped('')}
            slotProps={{
              ...params.slotProps,
              inputLabel: { ...params.slotProps.inputLabel, shrink: true },
              htmlInput: { ...params.slotProps.htmlInput, 'data-field': name, spellCheck: true },
            }}
          />
        )}
      />
    </Box>
  );
}
