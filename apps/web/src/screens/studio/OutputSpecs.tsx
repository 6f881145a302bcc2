import { Box, Button, Typography } from '@mui/material';
import { DEFAULT_OUTPUT_SPEC, MOST_SPECS, specWords, type OutputSpec } from '@arkiv/core';
import { useState } from 'react';
import { keepSpec, useOutputSpecs } from '../../data/outputSpecs';
import { Problem } from '../../parts/Problem';
import { SpecDialog } from '../../parts/SpecDialog';
import { useAction } from '../../parts/useAction';
import { GROUND, INK } from '../../theme/theme';

/** A name that none of the others has. */
export function freeSpecName(name: string, others: readonly Pick<OutputSpec, 'name'>[]): string {
  const taken = new Set(others.map((one) => one.name.toLowerCase()));
  for (let n = 2; ; n++) {
    const free = `${name} ${n}`;
    if (!taken.has(free.toLowerCase())) return free;
  }
}

/** How finished files are made: several ways, each with a name. */
export function OutputSpecs() {
  const specs = useOutputSpecs();
  const [open, setOpen] = useState<{ spec: OutputSpec; before: string | null } | null>(null);
  const { run, busy, error } = useAction((name: string) => keepSpec(name, null));
  return (
    <Box>
      {specs.map((spec) => (
        <Box
          key={spec.name}
          role="group"
          aria-label={spec.name}
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 1,
            py: 1,
            borderBottom: `1px solid ${GROUND.raised}`,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Box sx={{ fontWeight: 640 }}>{spec.name}</Box>
            <Box sx={{ color: INK.soft }}>{specWords(spec)}</Box>
          </Box>
          <Button size="small" color="inherit" onClick={() => setOpen({ spec, before: spec.name })}>
            Change
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={specs.length >= MOST_SPECS}
            onClick={() => setOpen({ spec: { ...spec, name: freeSpecName(spec.name, specs) }, before: null })}
          >
            Another like it
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={busy || specs.length === 1}
            onClick={() => run(spec.name)}
          >
            Take away
          </Button>
        </Box>
      ))}
      <Button
        variant="outlined"
        color="inherit"
        sx={{ mt: 1.5 }}
        disabled={specs.length >= MOST_SPECS}
        onClick={() =>
          setOpen({ spec: { ...DEFAULT_OUTPUT_SPEC, name: freeSpecName('Set', specs) }, before: null })
        }
      >
        A new spec …
      </Button>
      <Problem error={error} />
      <Typography variant="body2" sx={{ color: INK.soft, mt: 1.5 }}>
        Deliver makes files by one of these, or by several at once. What was delivered stays as it was made
        when a spec changes. Keywords that the vocabulary does not deliver, and notes to the editor, never go
        along.
      </Typography>
      {open && <SpecDialog {...open} onKept={() => setOpen(null)} onClose={() => setOpen(null)} />}
    </Box>
  );
}
