import {
  Box,
  Button,
  Checkbox,
  DialogActions,
  DialogContent,
  FormControlLabel,
  TextField,
} from '@mui/material';
import { DESCRIPTION_FIELDS, replaceIn, type DescriptionField, type FrameChange } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { many } from '../../data/format';
import type { LoadedFrame } from '../../data/frames';
import { WideDialog } from '../../parts/WideDialog';
import { GROUND, INK } from '../../theme/theme';
import { Changes, writeWords } from './Changes';

type Where = DescriptionField | 'keywords' | 'persons';
const FIELDS = Object.keys(DESCRIPTION_FIELDS) as DescriptionField[];
const WHERE: Readonly<Record<string, { words: string; fields: readonly Where[] }>> = {
  all: { words: 'all texts', fields: FIELDS },
  ...Object.fromEntries(
    FIELDS.map((field) => [field, { words: DESCRIPTION_FIELDS[field], fields: [field] }] as const),
  ),
  keywords: { words: 'Keywords', fields: ['keywords'] },
  persons: { words: 'Persons shown', fields: ['persons'] },
};

/** Finds a text in what frames say, and puts another in its place: shown before, written at once, undone as one step. */
export function ReplaceDialog({
  frames,
  onWrite,
  onClose,
}: {
  frames: readonly LoadedFrame[];
  onWrite: (changes: readonly FrameChange[]) => void;
  onClose: () => void;
}) {
  const [find, setFind] = useState('');
  const [by, setBy] = useState('');
  const [where, setWhere] = useState('all');
  const [exactCase, setExactCase] = useState(false);
  const [wholeWords, setWholeWords] = useState(false);
  const changes = useMemo(
    () =>
      replaceIn(
        frames.map((frame) => ({ id: frame.id, marks: frame })),
        WHERE[where]!.fields,
        { find, by, exactCase, wholeWords },
      ),
    [frames, where, find, by, exactCase, wholeWords],
  );
  return (
    <WideDialog title={`Find and replace in ${many(frames.length, 'frame')}`} width={980} onClose={onClose}>
      <DialogContent sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', gap: 2, pb: 0 }}>
        <Box
          component="form"
          id="replace"
          onSubmit={(event) => {
            event.preventDefault();
            if (changes.length > 0) onWrite(changes);
          }}
          sx={{
            display: 'grid',
            gridTemplateColumns: '1fr 1fr 190px',
            gap: 1.25,
            pt: 1,
            alignItems: 'center',
          }}
        >
          <TextField
            label="Find"
            autoFocus
            value={find}
            onChange={(event) => setFind(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label="Replace by"
            value={by}
            placeholder="nothing: it is taken out"
            onChange={(event) => setBy(event.target.value)}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            select
            label="In"
            value={where}
            onChange={(event) => setWhere(event.target.value)}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            {Object.entries(WHERE).map(([key, { words }]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </TextField>
          <Box sx={{ gridColumn: '1 / -1', color: INK.soft }}>
            <FormControlLabel
              control={<Checkbox size="small" checked={exactCase} onChange={(_, on) => setExactCase(on)} />}
              label="Upper and lower case count"
            />
            <FormControlLabel
              control={<Checkbox size="small" checked={wholeWords} onChange={(_, on) => setWholeWords(on)} />}
              label="Whole words only"
            />
          </Box>
        </Box>
        <Changes
          changes={changes}
          frames={frames}
          none={find === '' ? 'Type what is to be found.' : `“${find}” is in none of these texts.`}
        />
      </DialogContent>
      <DialogActions sx={{ borderTop: `1px solid ${GROUND.line}` }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button type="submit" form="replace" variant="contained" disabled={changes.length === 0}>
          {changes.length === 0 ? 'Write' : writeWords(changes)}
        </Button>
      </DialogActions>
    </WideDialog>
  );
}
