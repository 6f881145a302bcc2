import { Box, TextField } from '@mui/material';
import { lineValue } from '@arkiv/core';
import { pathWords, useAlbums } from '../../data/albums';
import { useStages } from '../../data/stages';
import type { NamedLine, Which } from './useWhichKeepers';

interface Props {
  which: Which;
  own: string;
  onChange: (change: { which?: Which; own?: string }) => void;
  /** what clients chose in galleries */
  choices?: readonly NamedLine[];
}

/** An album may be called “none” or “any”, which mean something else where they are not quoted. */
function albumLine(name: string): string {
  const value = lineValue(name);
  return `album=${value.startsWith('"') ? value : `"${value}"`}`;
}

/** Which of the keepers are meant: from a list, or by a line that is typed. */
export function WhichKeepers({ which, own, onChange, choices = [] }: Props) {
  const stages = useStages();
  const last = stages.at(-1)?.name;
  const { tree } = useAlbums();
  const albums = tree.inOrder().map(({ album: { id, name } }) => ({
    ...{ words: `in the album “${pathWords(tree, id)}”`, line: albumLine(name) },
  }));
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: which === 'own' ? '1fr 1fr' : '1fr', gap: 1.5, mt: 1.5 }}
    >
      <TextField
        select
        label="What goes"
        value={which}
        onChange={(event) => onChange({ which: event.target.value as Which })}
        slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
      >
        <option value="all">all keepers</option>
        <option value="ready">keepers that are {last}</option>
        <option value="best">the best that are {last}: four stars and more</option>
        {[...choices, ...albums].map(({ words, line }) => (
          <option key={line} value={`line ${line}`}>
            {words}
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
