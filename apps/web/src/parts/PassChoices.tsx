import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { count } from '../data/format';

export interface PassChoice {
  /** what a pass would look at, in words */
  name: string;
  frames: number;
  begin: (name: string) => void;
}

interface Props {
  choices: readonly PassChoice[];
  busy: boolean;
}

const WHO = 'arkiv.who';
/** Letters: a name stands in one line beside what the pass looks at. */
const MOST = { who: 40, name: 200 } as const;

/** What a pass can be about, and who goes through: two people's passes are told apart by that. */
export function PassChoices({ choices, busy }: Props) {
  const [who, setWho] = useState(() => localStorage.getItem(WHO) ?? '');
  const begin = ({ name, begin: beginIt }: PassChoice) => {
    localStorage.setItem(WHO, who.trim());
    const by = who.trim() === '' ? '' : ` · ${who.trim()}`;
    beginIt(`${name.slice(0, MOST.name - by.length)}${by}`);
  };
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mb: 1.5 }}>
        {choices.map((choice, i) => (
          <Button
            key={choice.name}
            variant={i === 0 ? 'contained' : 'outlined'}
            color={i === 0 ? 'primary' : 'inherit'}
            autoFocus={i === 0}
            disabled={busy}
            onClick={() => begin(choice)}
          >
            {choice.name} · {count(choice.frames)}
          </Button>
        ))}
      </Box>
      <TextField
        label="Who goes through (may stay empty)"
        value={who}
        onChange={(event) => setWho(event.target.value)}
        onKeyDown={(event) => {
          // Letters typed here are no keys of the dialog; Escape is.
          if (event.key !== 'Escape') event.stopPropagation();
          if (event.key === 'Enter' && !busy) begin(choices[0]!);
        }}
        size="small"
        sx={{ width: 280, mb: 3 }}
        slotProps={{ htmlInput: { maxLength: MOST.who }, inputLabel: { shrink: true } }}
      />
    </>
  );
}
