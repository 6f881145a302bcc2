import { Box, TextField } from '@mui/material';
import { useStages } from '../../data/stages';
import type { ClientChoice, Which } from './useWhichKeepers';

interface Props {
  which: Which;
  own: string;
  onChange: (change: { which?: Which; own?: string }) => void;
  /** what clients chose in galleries */
  choices?: readonly ClientChoice[];
}

/** Which of the keepers are meant: from a list, or by a line that is typed. */
export function WhichKeepers({ which, own, onChange, choices = [] }: Props) {
  const stages = useStages();
  const last = stages.at(-1)?.name;
  const chosen = (value: string) =>
    onChange({ which: /^\d+$/.test(value) ? Number(value) : (value as Which) });
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: which === 'own' ? '1fr 1fr' : '1fr', gap: 1.5, mt: 1.5 }}
    >
      <TextField
        select
        label="What goes"
        value={which}
        onChange={(event) => chosen(event.target.value)}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      >
        <option value="all">all keepers</option>
        <option value="ready">keepers that are {last}</option>
        <option value="best">the best that are {last}: four stars and more</option>
        {choices.map(({ title }, i) => (
          <option key={title} value={i}>
            what was chosen in “{title}”
          </option>
        ))}
        <option value="own">keepers that a line finds …</option>
      </TextField>
      {which === 'own' && (
        <TextField
          label="Line of words and facts"
          placeholder="album:Portfolio  ≥4★  heron"
          value={own}
          onChange={(event) => onChange({ own: event.target.value })}
          slotProps={{ htmlInput: { spellCheck: false, maxLength: 1000 }, inputLabel: { shrink: true } }}
        />
      )}
    </Box>
  );
}
