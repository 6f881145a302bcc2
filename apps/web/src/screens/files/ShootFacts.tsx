import { Box, Button, TextField } from '@mui/material';
import { isShootFact, LONGEST_SHOOT_FACT, SHOOT_FACTS, type ShootFact } from '@arkiv/core';
import { useId, useState } from 'react';
import { patch, type Api } from '../../data/http';
import { KnownNames } from '../../parts/KnownNames';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';

const LABELS: Readonly<Record<ShootFact, string>> = { title: 'Title', client: 'Client', place: 'Place' };

/** Title, client and place of a shoot, said otherwise after its frames are here; its folders and files keep their names. */
export function ShootFacts({ shoot }: { shoot: Api['ShootDto'] }) {
  const id = useId();
  const [typed, setTyped] = useState<Partial<Record<ShootFact, string>>>({});
  const [said, setSaid] = useState('');
  const value = (fact: ShootFact) => typed[fact] ?? shoot[fact];
  const next = (fact: ShootFact) => value(fact).trim();
  const changed = SHOOT_FACTS.filter((fact) => next(fact) !== shoot[fact]);
  const fits = SHOOT_FACTS.every((fact) => isShootFact(fact, next(fact)));
  const { run, busy, error, again } = useAction(async () => {
    await patch(`/shoots/${shoot.id}`, Object.fromEntries(changed.map((fact) => [fact, next(fact)])));
    setTyped({});
    setSaid('Kept. In History it can be taken back.');
  });
  const list = (fact: ShootFact) => (fact === 'title' ? undefined : `${id}${fact}`);
  return (
    <Section title="Title, client, place" folded="files.facts">
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (busy || !fits) return;
          if (changed.length > 0) run();
          else setSaid('It is said so already.');
        }}
      >
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '2fr 1fr 1fr' }, gap: 1.5 }}>
          {SHOOT_FACTS.map((fact) => (
            <TextField
              key={fact}
              label={LABELS[fact]}
              value={value(fact)}
              error={fact === 'title' && next(fact) === ''}
              helperText={fact === 'title' && next(fact) === '' ? 'A shoot has a title' : undefined}
              onChange={(event) => {
                setSaid('');
                setTyped((now) => ({ ...now, [fact]: event.target.value }));
              }}
              slotProps={{
                htmlInput: { maxLength: LONGEST_SHOOT_FACT, list: list(fact) },
                inputLabel: { shrink: true },
              }}
            />
          ))}
        </Box>
        <KnownNames id={list('client')!} of="client" />
        <KnownNames id={list('place')!} of="place" />
        <Box sx={{ color: INK.soft, my: 1 }}>
          Folders and files keep their names; what went out to clients stays as it was. Rename, below, puts a
          new title into the names of files.
        </Box>
        <Button type="submit" variant="outlined" color="inherit" disabled={!fits}>
          Keep
        </Button>
        <Box role="status" sx={{ color: INK.soft, mt: 0.5 }}>
          {said}
        </Box>
        <Problem error={error} again={again} />
      </Box>
    </Section>
  );
}
