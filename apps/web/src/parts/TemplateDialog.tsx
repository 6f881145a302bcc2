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
import {
  describeFrame,
  LABELS,
  type Label,
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
import type { Api } from '../data/http';
import { changeSettings } from '../data/settings';
import { labelName } from '../data/labels';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { WideDialog } from './WideDialog';
import { GROUND, INK, STRIKE_TEXT } from '../theme/theme';

export const NEW_TEMPLATE: MetadataTemplate = { id: '', name: '', mode: 'fill', fields: {}, keywords: '' };

interface Props {
  settings: Api['SettingsDto'];
  template: MetadataTemplate;
  /** a real frame of the card that the words are shown for */
  facts: NameFacts;
  camera: CameraWords;
  /** what using it means here; null: it can only be saved */
  useWords: string | null;
  onUse: (template: MetadataTemplate) => void;
  onClose: () => void;
}

/** What every frame's sidecar is to say; the words it comes to for a frame of this card are beside each field. */
export function TemplateDialog({ settings, template, facts, camera, useWords, onUse, onClose }: Props) {
  const [now, setNow] = useState(template);
  const problem = templateProblem(now);
  const said = describeFrame(now, facts, camera);
  const set = (field: DescriptionField, text: string) =>
    setNow({ ...now, fields: { ...now.fields, [field]: text } });
  const {
    run: save,
    busy,
    error,
    again,
  } = useAction(async () => {
    let saved = now;
    await changeSettings(({ templates }) => {
      const known = templates.find((t) => (now.id ? t.id === now.id : t.name === now.name.trim()));
      saved = { ...now, id: known?.id ?? ulid(), name: now.name.trim() };
      return {
        templates: [...templates.filter((t) => t.id !== saved.id), saved] as Api['MetadataTemplateDto'][],
        ...(useWords !== null && { template: saved.id }),
      };
    });
    onUse(saved);
  });
  return (
    <WideDialog title="Metadata template" width={1080} onClose={onClose}>
      <DialogContent sx={{ pb: 0 }}>
        <Typography sx={{ color: 'text.secondary', mb: 1.5 }}>
          It goes into each frame’s sidecar; the camera’s files stay as they are. Texts may use fields:{' '}
          {Object.keys(NAME_FIELDS)
            .map((field) => `{${field}}`)
            .join(' ')}
        </Typography>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, mb: 2, pt: 1 }}>
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
          <Box sx={{ color: INK.soft, ml: 'auto' }}>Frames begin with</Box>
          <TextField
            select
            sx={{ width: 90 }}
            label="Stars"
            value={now.stars ?? 0}
            onChange={(event) => setNow({ ...now, stars: Number(event.target.value) })}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            {[0, 1, 2, 3, 4, 5].map((stars) => (
              <option key={stars} value={stars}>
                {stars === 0 ? 'none' : `${stars}★`}
              </option>
            ))}
          </TextField>
          <TextField
            select
            sx={{ width: 150 }}
            label="Label"
            value={now.label ?? ''}
            onChange={(event) => setNow({ ...now, label: (event.target.value || null) as Label | null })}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            <option value="">none</option>
            {LABELS.map((label) => (
              <option key={label} value={label}>
                {label} {labelName(settings, label)}
              </option>
            ))}
          </TextField>
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
            label="Persons shown, separated by commas"
            value={now.persons ?? ''}
            said={said.persons.join(' · ')}
            problem={
              problem?.field === 'persons' ? describePatternProblem(problem.text, problem.problem) : null
            }
            onChange={(persons) => setNow({ ...now, persons })}
          />
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
        <Problem error={error} again={again} />
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
          disabled={busy || now.name.trim() === '' || problem !== null}
          onClick={() => save()}
        >
          {useWords === null ? 'Save' : 'Save and use'}
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        {useWords !== null && (
          <Button variant="contained" disabled={problem !== null} onClick={() => onUse({ ...now, id: '' })}>
            {useWords}
          </Button>
        )}
      </DialogActions>
    </WideDialog>
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
