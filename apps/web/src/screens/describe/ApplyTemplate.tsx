import {
  Box,
  Button,
  DialogActions,
  DialogContent,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { applyTemplate, nameFactsOf, type FrameChange, type MetadataTemplate } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { many } from '../../data/format';
import { numberOf, type LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { TextLink } from '../../parts/TextLink';
import { WideDialog } from '../../parts/WideDialog';
import { GROUND, INK } from '../../theme/theme';
import { Changes, writeWords } from './Changes';

interface Props {
  settings: Api['SettingsDto'];
  shoot: Api['ShootDto'];
  frames: readonly LoadedFrame[];
  onWrite: (changes: readonly FrameChange[]) => void;
  onClose: () => void;
}

/** A metadata template on frames that are here: each field before and after, its own fields filled for each frame. */
export function ApplyTemplate({ settings, shoot, frames, onWrite, onClose }: Props) {
  const templates = settings.templates as MetadataTemplate[];
  const [id, setId] = useState(settings.template ?? templates[0]?.id ?? '');
  const [way, setWay] = useState<'replace' | 'fill'>('fill');
  const template = templates.find((one) => one.id === id);
  const changes = useMemo(() => {
    if (!template) return [];
    const { title, client, place } = shoot;
    const of = { shoot: title, client, place, creator: settings.creator, card: '' };
    const described = frames.map((frame) => ({
      ...{ id: frame.id, marks: frame },
      facts: nameFactsOf(frame, { ...of, seq: Number(numberOf(frame.name)) || 0 }),
    }));
    return applyTemplate(described, template, way);
  }, [template, frames, shoot, settings.creator, way]);
  return (
    <WideDialog title={`Template on ${many(frames.length, 'frame')}`} width={980} onClose={onClose}>
      <DialogContent sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', gap: 2, pb: 0 }}>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, pt: 1 }}>
          <TextField
            select
            autoFocus
            label="Template"
            value={id}
            onChange={(event) => setId(event.target.value)}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            sx={{ width: 260 }}
          >
            {templates.length === 0 && <option value="">There is none yet</option>}
            {templates.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </TextField>
          <Box sx={{ color: INK.soft }}>Where a frame says something already</Box>
          <ToggleButtonGroup
            exclusive
            size="small"
            aria-label="Where a frame says something already"
            value={way}
            onChange={(_, next: 'replace' | 'fill' | null) => next && setWay(next)}
          >
            <ToggleButton value="fill">leave it</ToggleButton>
            <ToggleButton value="replace">replace it</ToggleButton>
          </ToggleButtonGroup>
          <Box sx={{ ml: 'auto' }}>
            <TextLink to="/studio#templates">Templates in Studio</TextLink>
          </Box>
        </Box>
        {template ? (
          <Changes
            changes={changes}
            frames={frames}
            none="Nothing changes: the frames say all that it says, or something else that is left."
          />
        ) : (
          <Typography sx={{ color: 'text.secondary' }}>
            A template says what is alike in many pictures: rights, credit, place, keywords. Studio makes one.
          </Typography>
        )}
      </DialogContent>
      <DialogActions sx={{ borderTop: `1px solid ${GROUND.line}` }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={changes.length === 0} onClick={() => onWrite(changes)}>
          {changes.length === 0 ? 'Write' : writeWords(changes)}
        </Button>
      </DialogActions>
    </WideDialog>
  );
}
