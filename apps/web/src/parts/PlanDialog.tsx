import {
  Box,
  Button,
  DialogActions,
  DialogContent,
  FormControlLabel,
  Checkbox,
  TextField,
  Typography,
} from '@mui/material';
import type { IntakePlan, NameField, SequenceScope } from '@arkiv/core';
import { useMemo, useState } from 'react';
import { ulid } from 'ulid';
import { many } from '../data/format';
import type { Api } from '../data/http';
import { changeSettings } from '../data/settings';
import { PatternField } from './PatternField';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { useSettled } from './useSettled';
import { WayList } from './WayList';
import { WideDialog } from './WideDialog';
import { GROUND, INK } from '../theme/theme';

/** Names and folders: what a saved plan holds. */
export interface Naming {
  pattern: string;
  folders: Api['FolderPlanDto'];
  seqBy: SequenceScope;
}

const NAME_CHIPS: NameField[] = [
  'shoot',
  'capture',
  'number',
  'original',
  'body',
  'serial',
  'card',
  'client',
  'place',
  'creator',
];
const FOLDER_CHIPS: NameField[] = ['capture', 'shoot', 'client', 'place', 'creator'];
const BELOW_CHIPS: NameField[] = ['card', 'body', 'serial', 'capture'];
const ROLES = ['originals', 'selects', 'edits', 'delivery', 'rejects'] as const;

interface Props {
  settings: Api['SettingsDto'];
  naming: Naming;
  /** name of the saved plan that is open, and whether it is the default */
  name?: string;
  isDefault?: boolean;
  seqStart: number;
  /** the number after the last shoot's, for plans whose numbers are carried on */
  carriedOn: number;
  /** milliseconds without a key before the plan is made anew */
  pause: number;
  /** what using it means here; null: it can only be saved */
  useWords: string | null;
  /** the plan that these names and folders would give */
  draft: (naming: Naming, seqStart: number) => IntakePlan;
  onUse: (naming: Naming, seqStart: number) => void;
  onClose: () => void;
}

/** Puts a plan together: names from fields, folders from levels and roles, numbers; the result for every file beside it. */
export function PlanDialog(props: Props) {
  const { settings, naming, seqStart, carriedOn, pause, useWords, draft, onUse, onClose } = props;
  const [now, setNow] = useState(naming);
  const [start, setStart] = useState(seqStart);
  const [name, setName] = useState(props.name ?? '');
  const [asDefault, setAsDefault] = useState(props.isDefault ?? false);
  const settled = useSettled(now, pause);
  const plan = useMemo(() => draft(settled, start), [draft, settled, start]);
  const [first, last] = [plan.frames[0], plan.frames.at(-1)];
  const folders = (change: Partial<Naming['folders']>) =>
    setNow({ ...now, folders: { ...now.folders, ...change } });
  const {
    run: save,
    busy,
    error,
    again,
  } = useAction(async () => {
    const { pattern, folders, seqBy } = now;
    await changeSettings(({ plans }) => {
      const known = plans.find((p) => p.name === name.trim());
      const saved = { id: known?.id ?? ulid(), name: name.trim(), pattern, folders, seqBy };
      return {
        plans: [...plans.filter((p) => p.id !== saved.id), saved],
        ...(asDefault && { plan: saved.id, pattern, folders, seqBy }),
      };
    });
    onUse(now, start);
  });
  return (
    <WideDialog title="Names and folders" width={1160} onClose={onClose}>
      <DialogContent
        sx={{
          display: 'grid',
          gridTemplateColumns: '560px minmax(0, 1fr)',
          gap: 3,
          minHeight: 0,
          overflow: 'hidden',
          pb: 0,
        }}
      >
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 2, overflow: 'auto', pt: 1, pr: 1 }}>
          {settings.plans.length > 0 && (
            <TextField
              select
              label="Begin from a saved plan"
              value=""
              onChange={(event) => {
                const saved = settings.plans.find((p) => p.id === event.target.value);
                if (saved) setNow({ pattern: saved.pattern, folders: saved.folders, seqBy: saved.seqBy });
              }}
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            >
              <option value="">choose …</option>
              {settings.plans.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                  {p.id === settings.plan ? ' (default)' : ''}
                </option>
              ))}
            </TextField>
          )}
          <PatternField
            label="Name pattern"
            value={now.pattern}
            fields={NAME_CHIPS}
            onChange={(pattern) => setNow({ ...now, pattern })}
            help={
              first ? (
                <>
                  first <Shown>{first.name}</Shown>, last <Shown>{last!.name}</Shown>
                </>
              ) : (
                'The extension follows the file.'
              )
            }
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
            <TextField
              label="Numbers start at"
              type="number"
              disabled={now.seqBy === 'carried'}
              value={now.seqBy === 'carried' ? carriedOn : start}
              onChange={(event) => setStart(Math.max(0, Number(event.target.value) || 0))}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <TextField
              select
              label="Numbers run"
              value={now.seqBy}
              onChange={(event) => setNow({ ...now, seqBy: event.target.value as SequenceScope })}
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            >
              <option value="shoot">through the whole shoot</option>
              <option value="day">restart daily</option>
              <option value="carried">on from the last shoot</option>
            </TextField>
          </Box>
          <PatternField
            label="Folder of the shoot, / between levels"
            value={now.folders.path}
            fields={FOLDER_CHIPS}
            onChange={(path) => folders({ path })}
            help={plan.folders.length > 0 ? <Shown>{plan.folders.join(' · ')}</Shown> : undefined}
          />
          <PatternField
            label="Folders inside the originals, such as one for each card or body"
            value={now.folders.below ?? ''}
            fields={BELOW_CHIPS}
            onChange={(below) => folders({ below })}
            optional
            help="Empty: all originals of a day lie together."
          />
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(5, 1fr)', gap: 1 }}>
            {ROLES.map((role) => (
              <TextField
                key={role}
                label={role}
                value={now.folders[role]}
                onChange={(event) => folders({ [role]: event.target.value })}
                slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
              />
            ))}
          </Box>
          <Box sx={{ borderTop: `1px solid ${GROUND.line}`, pt: 1.5 }}>
            <Typography variant="h2">Save this plan</Typography>
            <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1 }}>
              <TextField
                label="Name of the plan"
                value={name}
                onChange={(event) => setName(event.target.value)}
                sx={{ flex: 1 }}
              />
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    color="default"
                    checked={asDefault}
                    onChange={(_, on) => setAsDefault(on)}
                  />
                }
                label="make default"
              />
              <Button
                color={useWords === null ? 'primary' : 'inherit'}
                variant={useWords === null ? 'contained' : 'outlined'}
                disabled={busy || name.trim() === '' || plan.problems.length > 0}
                onClick={() => save()}
              >
                {useWords === null ? 'Save' : 'Save and use'}
              </Button>
            </Box>
            <Problem error={error} again={again} />
          </Box>
        </Box>
        <Box sx={{ display: 'flex', minHeight: 0, bgcolor: GROUND.base }}>
          <WayList
            ways={plan.items}
            problems={plan.problems.map((p) => p.message)}
            warnings={plan.warnings.map((p) => p.message)}
          />
        </Box>
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1, pl: 2, color: INK.faint }}>
          {plan.problems.length > 0
            ? `${many(plan.problems.length, 'problem')} to put right first`
            : 'The camera’s own name of each frame is kept in its metadata.'}
        </Box>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        {useWords !== null && (
          <Button variant="contained" disabled={plan.problems.length > 0} onClick={() => onUse(now, start)}>
            {useWords}
          </Button>
        )}
      </DialogActions>
    </WideDialog>
  );
}

function Shown({ children }: { children: string }) {
  return (
    <Box component="span" sx={{ color: INK.full }}>
      {children}
    </Box>
  );
}
