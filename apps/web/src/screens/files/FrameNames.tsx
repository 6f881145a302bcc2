import { Box, TextField } from '@mui/material';
import type { NameField } from '@arkiv/core';
import type { Api } from '../../data/http';
import { PatternField } from '../../parts/PatternField';

/** What names of frames that are in the archive may be made of. */
export const FRAME_FIELDS: readonly NameField[] = [
  'shoot',
  'capture',
  'number',
  'original',
  'body',
  'client',
  'place',
];

/** How frames are named, and where their numbers begin, with the first name that comes of it. */
export function FrameNames(props: {
  pattern: string;
  onPattern: (pattern: string) => void;
  start: number;
  onStart: (start: number) => void;
  plan: Api['MovePlanDto'] | null;
  /** said where no file would get another name, or nobody knows yet */
  none: string;
}) {
  const { pattern, onPattern, start, onStart, plan, none } = props;
  const first = plan?.ways[0]?.to;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', gap: 1.5 }}>
      <PatternField
        label="Name pattern"
        value={pattern}
        fields={FRAME_FIELDS}
        onChange={onPattern}
        help={first ? `first ${first.slice(first.lastIndexOf('/') + 1)}` : none}
      />
      <TextField
        label="Numbers start at"
        type="number"
        value={start}
        onChange={(event) => onStart(Math.max(0, Number(event.target.value) || 0))}
        slotProps={{ inputLabel: { shrink: true } }}
      />
    </Box>
  );
}
