import { Box, Button, TextField, Typography } from '@mui/material';
import {
  DEFAULT_STAGES,
  LABELS,
  LONGEST_STAGE,
  stageIdFor,
  STAGES_AT_MOST,
  stagesProblem,
  type Label,
  type Stage,
} from '@arkiv/core';
import { useState } from 'react';
import type { Api } from '../../data/http';
import { labelName } from '../../data/labels';
import { changeSettings } from '../../data/settings';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, INK } from '../../theme/theme';
import { KeptField } from './KeptField';

/** The stages of keepers between hand-off and delivery, in the studio's words. */
export function Stages({ settings }: { settings: Api['SettingsDto'] }) {
  const stages = settings.stages as readonly Stage[];
  const [added, setAdded] = useState('');
  const { run, busy, error } = useAction((next: readonly Stage[]) => keepStages(next));
  const changed = (i: number, change: Partial<Stage>): Stage[] =>
    stages.map((stage, at) => (at === i ? { ...stage, ...change } : stage));
  const add = (): void => {
    const name = added.trim();
    if (name === '') return;
    run([...stages, { id: stageIdFor(name, stages), name, label: null, by: null }]);
    setAdded('');
  };
  const addProblem =
    added.trim() === ''
      ? null
      : stagesProblem([...stages, { id: 'new-one', name: added.trim(), label: null, by: null }]);
  return (
    <Box>
      <Box
        sx={{
          ...{ display: 'grid', gap: 1.5, alignItems: 'start' },
          gridTemplateColumns: '24px minmax(140px, 3fr) minmax(140px, 3fr) minmax(120px, 2fr) auto',
        }}
      >
        {['', 'Name', 'Label that says the same', 'Reached by itself', ''].map((head, i) => (
          <Box key={i} sx={{ ...CAPTION, color: INK.faint }}>
            {head}
          </Box>
        ))}
        {stages.map((stage, i) => (
          <Box key={stage.id} sx={{ display: 'contents' }} role="group" aria-label={`Stage ${stage.name}`}>
            <Box sx={{ pt: 1, color: INK.faint }}>{i + 1}</Box>
            <KeptField
              hideLabel
              label={`Name of stage ${i + 1}`}
              value={stage.name}
              check={(text) => stagesProblem(changed(i, { name: text.trim() }))}
              keep={(text) => keepStages(changed(i, { name: text.trim() }))}
            />
            <TextField
              select
              value={stage.label ?? ''}
              onChange={(event) => run(changed(i, { label: (event.target.value || null) as Label | null }))}
              slotProps={{
                select: { native: true },
                htmlInput: { 'aria-label': `Label that says “${stage.name}”` },
              }}
            >
              <option value="">none</option>
              {LABELS.map((label) => (
                <option
                  key={label}
                  value={label}
                  disabled={stages.some((other) => other !== stage && other.label === label)}
                >
                  {label} {labelName(settings, label)}
                </option>
              ))}
            </TextField>
            <TextField
              select
              value={stage.by ?? ''}
              disabled={i === 0 || busy}
              onChange={(event) => run(broughtBy(stages, i, (event.target.value || null) as Stage['by']))}
              slotProps={{
                select: { native: true },
                htmlInput: { 'aria-label': `What brings frames to “${stage.name}”` },
              }}
            >
              <option value="">by hand</option>
              <option value="handoff">when handed off</option>
              <option value="return">when an edit comes back</option>
            </TextField>
            <Box sx={{ display: 'flex', pt: 0.5 }}>
              <Move
                words={`“${stage.name}” one up`}
                disabled={i === 0 || busy}
                onClick={() => run(swapped(stages, i - 1))}
              >
                ↑
              </Move>
              <Move
                words={`“${stage.name}” one down`}
                disabled={i === stages.length - 1 || busy}
                onClick={() => run(swapped(stages, i))}
              >
                ↓
              </Move>
              <Button
                color="inherit"
                size="small"
                aria-label={`Take away “${stage.name}”`}
                disabled={stages.length === 1 || busy}
                onClick={() => run(without(stages, i))}
              >
                Take away
              </Button>
            </Box>
          </Box>
        ))}
      </Box>
      <Box
        component="form"
        sx={{ display: 'flex', gap: 1, mt: 1.5, alignItems: 'start' }}
        onSubmit={(event) => {
          event.preventDefault();
          if (addProblem === null) add();
        }}
      >
        <TextField
          label="Another stage, behind the others"
          value={added}
          disabled={stages.length >= STAGES_AT_MOST}
          error={addProblem !== null}
          helperText={addProblem}
          onChange={(event) => setAdded(event.target.value)}
          slotProps={{ htmlInput: { maxLength: LONGEST_STAGE }, inputLabel: { shrink: true } }}
          sx={{ flex: '0 1 420px' }}
        />
        <Button
          type="submit"
          variant="outlined"
          color="inherit"
          disabled={busy || added.trim() === '' || addProblem !== null}
        >
          Add
        </Button>
        {JSON.stringify(stages) !== JSON.stringify(DEFAULT_STAGES) && (
          <Button color="inherit" disabled={busy} onClick={() => run(DEFAULT_STAGES)}>
            As they came
          </Button>
        )}
      </Box>
      <Problem error={error} />
      <Typography variant="body2" sx={{ color: INK.soft, mt: 1.5 }}>
        Every keeper stands at the first stage until something else is said. Where a label says a stage,
        giving the one gives the other, also in other programs that change the sidecar. Keepers at a stage
        that is taken away stand at the first one again; its frames keep their word in case it comes back.
      </Typography>
    </Box>
  );
}

const keepStages = (stages: readonly Stage[]): Promise<unknown> =>
  changeSettings(() => ({ stages: firstBringsNothing(stages) }));

/** A stage that has become the first is reached from the beginning. */
const firstBringsNothing = (stages: readonly Stage[]): Stage[] =>
  stages.map((stage, i) => (i === 0 ? { ...stage, by: null } : stage));

/** One thing brings keepers to one stage. */
const broughtBy = (stages: readonly Stage[], at: number, by: Stage['by']): Stage[] =>
  stages.map((stage, i) => (i === at ? { ...stage, by } : stage.by === by ? { ...stage, by: null } : stage));

const swapped = (stages: readonly Stage[], i: number): Stage[] => {
  const next = [...stages];
  [next[i], next[i + 1]] = [next[i + 1]!, next[i]!];
  return next;
};

const without = (stages: readonly Stage[], i: number): Stage[] => stages.filter((_, at) => at !== i);

function Move(props: { words: string; disabled: boolean; onClick: () => void; children: string }) {
  return (
    <Button
      color="inherit"
      size="small"
      aria-label={props.words}
      disabled={props.disabled}
      onClick={props.onClick}
      sx={{ minWidth: 34, px: 0.5 }}
    >
      {props.children}
    </Button>
  );
}
