import { Box, TextField } from '@mui/material';
import { useState } from 'react';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { PatternField } from '../../parts/PatternField';
import { Section } from '../../parts/Section';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

/** Names all frames of a shoot anew by a pattern; the camera's own names stay in the sidecars. */
export function RenamePart({ shoot }: { shoot: Api['ShootDto'] }) {
  const [pattern, setPattern] = useState(shoot.pattern);
  const [start, setStart] = useState(1);
  const changed = pattern !== shoot.pattern || start !== 1;
  const asked: MoveRequest | null = changed
    ? { kind: 'rename', shootId: shoot.id, pattern, seqStart: start, rename: true }
    : null;
  const { plan, error } = useMovePlan(asked);
  return (
    <Section title="Rename" folded="files.rename">
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 150px', gap: 1.5 }}>
        <PatternField
          label="Name pattern"
          value={pattern}
          fields={['shoot', 'capture', 'number', 'original', 'body', 'client', 'place']}
          onChange={setPattern}
          help={
            plan?.ways[0]
              ? `first ${plan.ways[0].to.slice(plan.ways[0].to.lastIndexOf('/') + 1)}`
              : 'As the frames are named now.'
          }
        />
        <TextField
          label="Numbers start at"
          type="number"
          value={start}
          onChange={(event) => setStart(Math.max(0, Number(event.target.value) || 0))}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      </Box>
      {changed && (
        <MoveOutcome
          plan={plan}
          error={error}
          words={`Rename ${many(shoot.frames, 'frame')}`}
          run={() => moveNow(asked!)}
        />
      )}
    </Section>
  );
}
