import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import {
  describeFrame,
  describePatternProblem,
  DESCRIPTION_FIELDS,
  NAME_FIELDS,
  templateProblem,
  type CameraWords,
  type DescriptionField,
  type MetadataTemplate,
  type NameFacts,
} from '@arkiv/core';
import { useState } from 'react';
import { ulid } from 'ulid';
import { patch, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { GROUND, INK, STRIKE_TEXT } from '../../theme/theme';

export const NEW_TEMPLATE: MetadataTemplate = { id: '', name: '', mode: 'fill', fields: {}, keywords: '' };

interface Props {
  settings: Api['SettingsDto'];
  template: MetadataTemplate;
  /** a real frame of the card that the words are shown for */
  facts: NameFacts;
  camera: CameraWords;
  onUse: (template: MetadataTemplate) => void;
  onClose: () => void;
}

/** What every frame's sidecar is to say; the words it comes to for a frame of this card are beside each field. */
export function TemplateDialog({ settings, template, facts, camera, onUse, onClose }: Props) {
  const [now, setNow] = useState(template);
  const [error, setError] = useState<unknown>(null);
  const problem = templateProblem(now);
  const said = describeFrame(now, facts, camera);
  const set = (field: DescriptionField, text: string) =>
    setNow({ ...now, fields: { ...now.fields, [field]: text } });
  const save = async () => {
    try {
      const known = settings.templates.find((t) => t.name === now.name.trim());
      const saved = { ...now, id: known?.id ?? ulid(), name: now.name.trim() };
      const templates = [...settings.templates.filter((t) => t.id !== saved.id), saved];
      await patch('/settings', { templates, template: saved.id });
      onUse(saved);
    } catch (e) {
      setError(e);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth={false}
      aria-labelledby="template-title"
      slotProps={{ paper: { sx: { width: 1080, height: '92vh', borderRadius: 0 } } }}
    >
      <DialogTitle id="template-title" sx={{ pb: 0.5 }}>
        Metadata template
      </DialogTitle>
      <DialogContent sx={{ pb: 0 }}>
        <Typography sx={{ color: 'text.secondary', mb: 1.5 }}>
          It goes into each frame’s sidecar; the camera’s files stay as they are. Texts may use fields:{' '}
          {Object.keys(NAME_FIELDS)
            .map((field) => `{${field}}`)
            .join(' ')}
        </Typography>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 2 }}>
          <Box sx={{ color: INK.soft }}>Where the camera wrote something itself</Box>
          <ToggleButtonGroup
            exclusive
            size="small"
            aria-label="Where the camera wrote something itself"
            value={now.mode}
            onChange={(_, mode: MetadataTemplate['mode'] | null) => mode && setNow({ ...now, mode })}
          >
            <ToggleButton value="fill">keep it, fill what is empty</ToggleButton>
            <ToggleButton value="replace">replace it</ToggleButton>
          </ToggleButtonGroup>
        </Box>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 3, rowGap: 1.25 }}>
          {(Object.entries(DESCRIPTION_FIELDS) as [DescriptionField, string][]).map(([field, label]) => (
            <Line
              key={field}
              label={label}
              value={now.fields[field] ?? ''}
              said={said[field]}
              problem={
                problem?.field === field ? describePatternProblem(problem.text, problem.problem) : null
              }
              onChange={(text) => set(field, text)}
            />
          ))}
          <Line
            label="Keywords, separated by commas"
            value={now.keywords}
            said={said.keywords.join(' · ')}
            problem={
              problem?.field === 'keywords' ? describePatternProblem(problem.text, problem.problem) : null
            }
            onChange={(keywords) => setNow({ ...now, keywords })}
          />
        </Box>
        <Problem error={error} />
      </DialogContent>
      <DialogActions sx={{ borderTop: `1px solid ${GROUND.line}`, mt: 1 }}>
        <TextField
          label="Name of the template"
          value={now.name}
          onChange={(event) => setNow({ ...now, name: event.target.value })}
          sx={{ width: 260, ml: 2 }}
        />
        <Button
          color="inherit"
          variant="outlined"
          disabled={now.name.trim() === '' || problem !== null}
          onClick={() => void save()}
        >
          Save and use
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={problem !== null} onClick={() => onUse({ ...now, id: '' })}>
          Use for this card
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A text, and under it what it comes to. */
function Line({
  label,
  value,
  said,
  problem,
  onChange,
}: {
  label: string;
  value: string;
  said: string | null;
  problem: string | null;
  onChange: (text: string) => void;
}) {
  const shown = said !== null && said !== '' && said !== value ? said : null;
  return (
    <Box>
      <TextField
        label={label}
        value={value}
        fullWidth
        error={problem !== null}
        onChange={(event) => onChange(event.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <Box sx={{ minHeight: 18, fontSize: 12.5, color: problem ? STRIKE_TEXT : INK.soft }}>
        {problem ?? (shown && `→ ${shown}`)}
      </Box>
    </Box>
  );
}
