import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { ApiFailure, put, type Api } from '../../data/http';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';

type Program = Api['ProgramDto'];

const NONE: Program = { name: '', command: '', args: [], takes: 'raw' };

/** Other programs on this computer that frames can be opened in. Only who sits at it names them. */
export function Programs() {
  const { data, error, mutate } = useGet('/opening/programs');
  const [edited, setEdited] = useState<{ at: number; program: Program } | null>(null);
  const {
    run,
    busy,
    error: trouble,
  } = useAction(async (programs: Program[]) => {
    await put('/opening/programs', { programs });
    await mutate();
    setEdited(null);
  });
  if (error instanceof ApiFailure && error.status === 403) return null;
  const programs = data?.programs ?? [];
  const change = (part: Partial<Program>) =>
    setEdited((now) => now && { ...now, program: { ...now.program, ...part } });
  const keep = () => {
    const { at, program } = edited!;
    const one = { ...program, name: program.name.trim(), command: program.command.trim() };
    run(at < 0 ? [...programs, one] : programs.map((its, i) => (i === at ? one : its)));
  };
  return (
    <Box sx={{ mt: 2.5 }}>
      <Box sx={{ ...CAPTION, color: INK.faint }}>Programs that frames are opened in, on this computer</Box>
      <Problem error={error} />
      {programs.map((program, i) => (
        <Box
          key={program.name}
          sx={{
            ...{ display: 'flex', alignItems: 'center', gap: 1, py: 0.5 },
            borderBottom: `1px solid ${GROUND.raised}`,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Box sx={{ fontWeight: 560 }}>{program.name}</Box>
            <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
              {[program.command, ...program.args].join(' ')} · gets the{' '}
              {program.takes === 'raw' ? 'raw, or the picture where there is none' : 'picture beside a raw'}
            </Box>
          </Box>
          <Button size="small" color="inherit" onClick={() => setEdited({ at: i, program })}>
            Change
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={busy}
            onClick={() => run(programs.filter((_, j) => j !== i))}
          >
            Forget
          </Button>
        </Box>
      ))}
      {edited === null ? (
        <Button color="inherit" sx={{ mt: 1 }} onClick={() => setEdited({ at: -1, program: NONE })}>
          Name a program …
        </Button>
      ) : (
        <Box
          component="form"
          sx={{ display: 'grid', gap: 1.5, mt: 1.5 }}
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <TextField
            label="Name"
            value={edited.program.name}
            autoFocus
            onChange={(event) => change({ name: event.target.value })}
            slotProps={{ htmlInput: { maxLength: 60 }, inputLabel: { shrink: true } }}
          />
          <TextField
            label="Program: its whole path, or its name where the system finds it"
            value={edited.program.command}
            onChange={(event) => change({ command: event.target.value })}
            slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
          />
          <TextField
            label="Arguments, one a line; {files} stands for the files, which else come last"
            value={edited.program.args.join('\n')}
            multiline
            minRows={2}
            onChange={(event) =>
              change({ args: event.target.value === '' ? [] : event.target.value.split('\n') })
            }
            slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
          />
          <TextField
            select
            label="It gets"
            value={edited.program.takes}
            onChange={(event) => change({ takes: event.target.value as Program['takes'] })}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            <option value="raw">the raw, or the picture where there is none</option>
            <option value="picture">the picture beside a raw</option>
          </TextField>
          <Typography sx={{ color: INK.soft }}>
            It is started with the originals themselves, by no shell, and only from this computer.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Button
              type="submit"
              variant="contained"
              disabled={busy || edited.program.name.trim() === '' || edited.program.command.trim() === ''}
            >
              Keep it
            </Button>
            <Button color="inherit" onClick={() => setEdited(null)}>
              Cancel
            </Button>
          </Box>
        </Box>
      )}
      <Problem error={trouble} />
    </Box>
  );
}
