import {
  Autocomplete,
  Box,
  Button,
  Checkbox,
  FormControlLabel,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import {
  keywordsOf,
  rosterIn,
  rosterOf,
  TERM_KINDS,
  tidy,
  type Term,
  type TermChange,
  type TermKind,
} from '@arkiv/core';
import { useMemo, useState } from 'react';
import type { KnownTerms } from '../../data/vocabulary';
import { CAPTION, INK } from '../../theme/theme';
import { useFollowing } from './useFollowing';

type Deed = 'add' | 'roster' | 'rename' | 'move' | 'join' | 'split' | 'remove';
const DEEDS: Readonly<Record<Deed, string>> = {
  add: 'Add under it',
  roster: 'Numbered list',
  rename: 'Rename',
  move: 'Move',
  join: 'Join',
  split: 'Split',
  remove: 'Remove',
};
const KIND_WORDS: Readonly<Record<TermKind, string>> = {
  subject: 'subject',
  person: 'person',
  place: 'place',
  event: 'event',
};
/** Places that are offered at once. */
const OFFERED = 12;
const TOP = { id: null, words: 'at the top' } as const;
type Place = { id: string | null; words: string };

interface Props {
  known: KnownTerms;
  term: Term;
  busy: boolean;
  onChange: (change: TermChange) => void;
}

/** One term: what it is, and what can be done with it; each deed says what frames do before it is done. */
export function TermPanel({ known, term, busy, onChange }: Props) {
  const { vocabulary } = known;
  const [deed, setDeed] = useState<Deed | null>(null);
  const given = vocabulary.given(term.id);
  return (
    <Box sx={{ display: 'grid', gap: 2, alignContent: 'start' }}>
      <Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>
          {vocabulary.path(term.id).slice(0, -1).join(' › ') || 'at the top'}
        </Box>
        <Typography variant="h2" sx={{ fontSize: 20, overflowWrap: 'anywhere' }}>
          {term.word}
        </Typography>
        <Box sx={{ color: INK.soft, mt: 0.5 }}>A frame that gets it gets: {given.join(', ')}</Box>
      </Box>
      <Facts key={JSON.stringify(term)} term={term} busy={busy} onChange={onChange} />
      <ToggleButtonGroup
        exclusive
        size="small"
        aria-label="What is done with it"
        value={deed}
        onChange={(_, next: Deed | null) => setDeed(next)}
        sx={{ flexWrap: 'wrap' }}
      >
        {(Object.keys(DEEDS) as Deed[]).map((one) => (
          <ToggleButton key={one} value={one} sx={{ px: 1.25, py: 0.4 }}>
            {DEEDS[one]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {deed && (
        <DeedForm
          key={deed}
          known={known}
          term={term}
          deed={deed}
          busy={busy}
          onChange={(change) => {
            onChange(change);
            if (change.do !== 'add') setDeed(null);
          }}
        />
      )}
    </Box>
  );
}

/** Synonyms, kind, and whether it is delivered: of the tree alone, frames stay as they are. */
function Facts({ term, busy, onChange }: Omit<Props, 'known'>) {
  const [synonyms, setSynonyms] = useState(term.synonyms.join(', '));
  const send = (change: Partial<Pick<Term, 'synonyms' | 'kind' | 'deliver'>>) => {
    const { kind, deliver } = term;
    onChange({ do: 'set', id: term.id, synonyms: keywordsOf(synonyms), kind, deliver, ...change });
  };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <TextField
        label="Synonyms, parted by commas"
        value={synonyms}
        onChange={(event) => setSynonyms(event.target.value)}
        onBlur={() => keywordsOf(synonyms).join() !== term.synonyms.join() && send({})}
        onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLElement).blur()}
        slotProps={{ inputLabel: { shrink: true } }}
        helperText="Frames that get the term from now on get them too, and are found by them."
      />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2 }}>
        <TextField
          select
          label="Kind"
          value={term.kind}
          disabled={busy}
          onChange={(event) => send({ kind: event.target.value as TermKind })}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ width: 130 }}
        >
          {TERM_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KIND_WORDS[kind]}
            </option>
          ))}
        </TextField>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={!term.deliver}
              disabled={busy}
              onChange={(_, on) => send({ deliver: !on })}
            />
          }
          label="Do not deliver"
        />
      </Box>
    </Box>
  );
}

function DeedForm({ known, term, deed, busy, onChange }: Props & { deed: Deed }) {
  const { vocabulary, search } = known;
  const [text, setText] = useState(() =>
    deed === 'roster'
      ? rosterOf(vocabulary, term.id)
          .map(({ number, word }) => `${number} ${word}`)
          .join('\n')
      : deed === 'rename' || deed === 'split'
        ? term.word
        : '',
  );
  const [place, setPlace] = useState<Place | null>(null);
  const [frames, setFrames] = useState(true);
  const [typed, setTyped] = useState('');
  const places = useMemo((): Place[] => {
    const under = new Set(vocabulary.withAllBelow(term.id).map(({ id }) => id));
    const found = search
      .find(typed, OFFERED + under.size)
      .filter(({ term: { id } }) => !under.has(id))
      .slice(0, OFFERED)
      .map(({ term: { id } }) => ({ id, words: vocabulary.path(id).join(' › ') }));
    return deed === 'move' && typed === '' ? [TOP] : found;
  }, [vocabulary, search, term.id, typed, deed]);
  const change = changeOf(deed, term, text, place, frames);
  const { words, can } = useFollowing(change);
  const asksPlace = deed === 'move' || deed === 'join';
  const list = deed === 'roster' ? rosterIn(text) : null;
  const listProblem = list && !list.ok ? `Line ${list.line}: ${list.problem}` : null;
  return (
    <Box
      component="form"
      sx={{ display: 'grid', gap: 1.25 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (!change || !can || busy) return;
        onChange(change);
        if (deed === 'add') setText('');
      }}
    >
      {asksPlace && (
        <Autocomplete<Place>
          options={places}
          filterOptions={(options) => options}
          getOptionLabel={(option) => option.words}
          isOptionEqualToValue={(a, b) => a.id === b.id}
          noOptionsText={typed === '' ? 'Type a term' : 'No such term'}
          value={place}
          onChange={(_, next) => setPlace(next)}
          inputValue={typed}
          onInputChange={(_, next) => setTyped(next)}
          renderInput={(params) => (
            <TextField
              {...params}
              autoFocus
              label={deed === 'move' ? 'Under which term' : 'With which term'}
              slotProps={{
                ...params.slotProps,
                inputLabel: { ...params.slotProps.inputLabel, shrink: true },
              }}
            />
          )}
        />
      )}
      {deed === 'roster' && (
        <TextField
          autoFocus
          multiline
          minRows={6}
          maxRows={18}
          label="A line each: the number, then the name"
          placeholder={'7 Ana Pinto\n12 Bo Lind'}
          value={text}
          onChange={(event) => setText(event.target.value)}
          error={listProblem !== null}
          helperText={
            listProblem ?? 'A shoot that uses the list gets name, keywords and caption by the number.'
          }
          slotProps={{ inputLabel: { shrink: true } }}
        />
      )}
      {!asksPlace && deed !== 'remove' && deed !== 'roster' && (
        <TextField
          autoFocus
          label={
            deed === 'add'
              ? `New term under “${term.word}”`
              : deed === 'split'
                ? 'Becomes, parted by commas'
                : 'New word'
          }
          value={text}
          onChange={(event) => setText(event.target.value)}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { spellCheck: true } }}
        />
      )}
      {deed === 'remove' && (
        <FormControlLabel
          control={<Checkbox size="small" checked={frames} onChange={(_, on) => setFrames(on)} />}
          label="Take it off frames too"
        />
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Button type="submit" variant="contained" disabled={!can || busy}>
          {deed === 'roster' ? 'Keep the list' : DEEDS[deed]}
        </Button>
        <Box role="status" sx={{ color: INK.soft }}>
          {words}
        </Box>
      </Box>
    </Box>
  );
}

/** The change that a form comes to; null: something is missing yet. */
function changeOf(
  deed: Deed,
  { id, word, kind }: Term,
  text: string,
  place: Place | null,
  frames: boolean,
): TermChange | null {
  const typed = tidy(text);
  switch (deed) {
    case 'add':
      return typed === '' ? null : { do: 'add', word: typed, parent: id, kind };
    case 'roster': {
      const list = rosterIn(text);
      return list.ok ? { do: 'roster', id, entries: list.entries } : null;
    }
    case 'rename':
      return typed === '' || typed === word ? null : { do: 'rename', id, word: typed };
    case 'split':
      return keywordsOf(text).length < 2 ? null : { do: 'split', id, words: keywordsOf(text) };
    case 'move':
      return place && { do: 'move', id, parent: place.id };
    case 'join':
      return place?.id ? { do: 'join', id, into: place.id } : null;
    case 'remove':
      return { do: 'remove', id, frames };
  }
}
