import { Box, TextField } from '@mui/material';
import type { ReactNode } from 'react';
import { INK } from '../../theme/theme';

/** What is to go along with the finished files of a set. */
export interface Along {
  raws: boolean;
  /** of the raws */
  folder: string;
  sheet: boolean;
  bag: boolean;
}

export const NOTHING_ALONG: Along = { raws: false, folder: 'raw', sheet: false, bag: false };

/** Raws, a proof sheet, a bag: each says what it adds to the set. */
export function AlongPart({ along, onChange }: { along: Along; onChange: (change: Partial<Along>) => void }) {
  const empty = along.folder.trim() === '';
  return (
    <Box role="group" aria-label="What goes along" sx={{ mt: 1.5 }}>
      <Choice
        checked={along.raws}
        onChange={(raws) => onChange({ raws })}
        label="Raws with their sidecars"
        words="called as the finished files; keywords that are not delivered and notes stay here"
      />
      {along.raws && (
        <TextField
          label="Folder of the raws"
          size="small"
          value={along.folder}
          error={empty}
          helperText={empty ? 'The folder needs a name: without one, no raw goes along' : undefined}
          onChange={(event) => onChange({ folder: event.target.value })}
          slotProps={{ htmlInput: { maxLength: 60, spellCheck: false } }}
          sx={{ ml: 3.5, mt: 0.5, mb: 1, width: 'calc(100% - 28px)' }}
        />
      )}
      <Choice
        checked={along.sheet}
        onChange={(sheet) => onChange({ sheet })}
        label="A proof sheet"
        words="a PDF of all pictures with their names, fifteen to a page"
      />
      <Choice
        checked={along.bag}
        onChange={(bag) => onChange({ bag })}
        label="As a bag"
        words="for archives and libraries (RFC 8493): all files in “data”, checksums beside it"
      />
    </Box>
  );
}

function Choice(props: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  label: string;
  words: ReactNode;
}) {
  const { checked, onChange, label, words } = props;
  return (
    <label style={{ display: 'flex', alignItems: 'start', gap: 10, padding: '4px 0' }}>
      <input
        type="checkbox"
        style={{ accentColor: INK.full, marginTop: 4 }}
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>
        <span style={{ fontWeight: 640 }}>{label}</span>
        <Box component="span" sx={{ display: 'block', color: INK.soft }}>
          {words}
        </Box>
      </span>
    </label>
  );
}
