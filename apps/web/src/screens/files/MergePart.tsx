import { Box, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { many, mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { useShootsNear } from '../../data/live';
import { Section } from '../../parts/Section';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

/** All of this shoot into another one. */
export function MergePart({ shoot }: { shoot: Api['ShootDto'] }) {
  const { data: shoots } = useShootsNear(shoot.date);
  const navigate = useNavigate();
  const [into, setInto] = useState('');
  const [rename, setRename] = useState(true);
  const asked: MoveRequest | null = into === '' ? null : { kind: 'merge', shootId: shoot.id, into, rename };
  const { plan, error } = useMovePlan(asked);
  const others = [...(shoots ?? [])]
    // Nothing is put into an adopted folder.
    .filter((s) => s.id !== shoot.id && !s.keptIn)
    .sort((a, b) => far(a, shoot) - far(b, shoot));
  const other = others.find((s) => s.id === into);
  if (others.length === 0) return null;
  return (
    <Section title="Merge" folded="files.merge">
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <TextField
          select
          label="Add all frames to"
          value={into}
          onChange={(event) => setInto(event.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          sx={{ flex: 1 }}
        >
          <option value="">choose a shoot …</option>
          {others.map((s) => (
            <option key={s.id} value={s.id}>
              {s.title} · {mediumDay(s.date)} · {many(s.frames, 'frame')}
            </option>
          ))}
        </TextField>
        <FormControlLabel
          control={
            <Checkbox size="small" color="default" checked={rename} onChange={(_, on) => setRename(on)} />
          }
          label="name them as that shoot does"
        />
      </Box>
      {asked && (
        <MoveOutcome
          plan={plan}
          error={error}
          words={`Merge into “${other?.title ?? ''}”`}
          run={async () => {
            await moveNow(asked);
            // This shoot holds nothing any more: the way goes on in the other one.
            await navigate(`/shoots/${into}/files`);
          }}
        />
      )}
    </Section>
  );
}

const far = (a: Api['ShootDto'], b: Api['ShootDto']) => Math.abs(Date.parse(a.date) - Date.parse(b.date));
