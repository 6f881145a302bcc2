import { Autocomplete, Box, TextField } from '@mui/material';
import { keywordKey, keywordsOf, tidy, type Term, type WordSet } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { count } from '../../data/format';
import { keepSet, lastSets } from '../../data/lastSets';
import type { LoadedFrame } from '../../data/frames';
import type { KnownTerms } from '../../data/vocabulary';
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
  /** the vocabulary; null: on its way */
  terms: KnownTerms | null;
  onGive: (words: readonly string[]) => void;
  onTerm: (term: Term) => void;
  onTake: (word: string) => void;
}

/** Words that are offered at once: what an eye takes in. */
const OFFERED = 9;
/** Terms that are looked at for these: some are of another kind, or there already. */
const MOST_FOUND = 60;

/** What is offered: a term, some words, or a whole set of them. */
interface Offer {
  words: string;
  /** where it stands, and by which synonym it was found */
  aside: string;
  term: Term | null;
}
const isSame = (a: string, b: string) => keywordKey(a) === keywordKey(b);

/** Keywords or persons of the frames that are meant: what all have, what some have, and more as they are typed. */
export function WordsField({ name, label, set, frames, known, terms, onGive, onTerm, onTake }: Props) {
  const words = useMemo(() => wordsIn(frames.map((frame) => frame[set])), [frames, set]);
  const [typed, setTyped] = useState('');
  const [sets, setSets] = useState(lastSets);
  const offers = useMemo((): Offer[] => {
    const has = words.filter(({ frames: n }) => n === frames.length).map(({ word }) => word);
    // Before anything is typed, the sets that were given last; then terms, then words that are there already.
    const last = typed === '' && set === 'keywords' ? sets.filter((one) => one.includes(',')) : [];
    const begun = typed.split(/[,;]/).at(-1)!;
    const found = (terms?.search.find(begun, MOST_FOUND) ?? []).filter(
      ({ term }) =>
        (set === 'keywords' || term.kind === 'person') && !has.some((word) => isSame(word, term.word)),
    );
    const others = suggested(typed, known, [...has, ...found.map(({ term }) => term.word)], OFFERED);
    return [
      ...last.map((words_): Offer => ({ words: words_, aside: '', term: null })),
      ...found.map(({ term, by }): Offer => {
        const path = terms!.vocabulary.path(term.id).slice(0, -1).join(' › ');
        return { words: term.word, aside: [by && `also “${by}”`, path].filter(Boolean).join(' · '), term };
      }),
      ...others.map((word): Offer => ({ words: word, aside: '', term: null })),
    ].slice(0, OFFERED);
  }, [words, frames.length, typed, sets, known, set, terms]);
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
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mb: 1.5 }} aria-label={label} role="group">
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
      <Autocomplete<Offer, false, false, true>
        freeSolo
        openOnFocus={false}
        options={offers}
        // What is typed was looked for already.
        filterOptions={(options) => options}
        value={null}
        inputValue={typed}
        onInputChange={(_, value, reason) => reason !== 'reset' && setTyped(value)}
        getOptionLabel={(option) => (typeof option === 'string' ? option : option.words)}
        getOptionKey={(option) =>
          typeof option === 'string' ? option : `${option.term?.id ?? ''} ${option.words}`
        }
        renderOption={({ key, ...props }, { words: its, aside }) => (
          <li key={key} {...props}>
            {its}
            <Box component="span" sx={{ color: INK.soft, fontSize: 12.5, ml: 1 }}>
              {aside}
            </Box>
          </li>
        )}
        onChange={(_, value) => {
          if (value === null) return;
          // What stands before the last comma was meant as well.
          const before = typed.split(/[,;]/).slice(0, -1).join(',');
          if (typeof value === 'string') give(value);
          else if (value.term) {
            give(before);
            onTerm(value.term);
          } else give(before === '' ? value.words : `${before}, ${value.words}`);
        }}
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
