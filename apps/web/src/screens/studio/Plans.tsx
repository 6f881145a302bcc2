import { Box, Button, Typography } from '@mui/material';
import { planIntake, type IntakePlan } from '@arkiv/core';
import { useCallback, useState } from 'react';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { PlanDialog, type Naming } from '../../parts/PlanDialog';
import { Problem } from '../../parts/Problem';
import { INK } from '../../theme/theme';
import { Saved } from './Saved';
import { planFrames, type Sample } from './useSample';

type Plan = Api['SettingsDto']['plans'][number];

/** Milliseconds: two hundred frames are planned in a blink. */
const PAUSE = 150;

/** How files are named and where they are put, from the next card on. */
export function Plans({ settings, sample }: { settings: Api['SettingsDto']; sample: Sample | null }) {
  const [open, setOpen] = useState<Plan | 'new' | null>(null);
  const [error, setError] = useState<unknown>(null);
  const draft = useCallback(
    (naming: Naming, seqStart: number): IntakePlan => planOf(settings, sample, naming, seqStart),
    [settings, sample],
  );
  const send = (change: (now: Api['SettingsDto']) => Api['ChangeSettingsDto']) =>
    void changeSettings(change).then(() => setError(null), setError);
  const own: Naming = { pattern: settings.pattern, folders: settings.folders, seqBy: settings.seqBy };
  const example = (naming: Naming) => {
    const [item] = draft(naming, 1).items;
    return item ? item.to : 'This pattern cannot be used.';
  };
  return (
    <Box>
      {settings.plan === null && (
        <Saved
          name="As Arkiv comes"
          example={example(own)}
          isDefault
          onOpen={() => setOpen('new')}
          onDefault={null}
          onRemove={null}
        />
      )}
      {settings.plans.map((plan) => (
        <Saved
          key={plan.id}
          name={plan.name}
          example={example(plan)}
          isDefault={plan.id === settings.plan}
          onOpen={() => setOpen(plan)}
          onDefault={
            plan.id === settings.plan
              ? null
              : () =>
                  send(() => ({
                    plan: plan.id,
                    pattern: plan.pattern,
                    folders: plan.folders,
                    seqBy: plan.seqBy,
                  }))
          }
          onRemove={
            plan.id === settings.plan
              ? null
              : () => send((now) => ({ plans: now.plans.filter(({ id }) => id !== plan.id) }))
          }
        />
      ))}
      <Button color="inherit" size="small" sx={{ mt: 1, px: 0 }} onClick={() => setOpen('new')}>
        New plan …
      </Button>
      <Typography variant="body2" sx={{ color: INK.soft, mt: 0.5 }}>
        A plan counts from the next card on; files that are archived keep their names and places
        {sample ? `. The example is the first frame of “${sample.shoot.title}”.` : '.'}
      </Typography>
      <Problem error={error} />
      {open && (
        <PlanDialog
          settings={settings}
          naming={open === 'new' ? own : open}
          name={open === 'new' ? '' : open.name}
          isDefault={open !== 'new' && open.id === settings.plan}
          seqStart={1}
          carriedOn={1}
          pause={PAUSE}
          useWords={null}
          draft={draft}
          onUse={() => setOpen(null)}
          onClose={() => setOpen(null)}
        />
      )}
    </Box>
  );
}

function planOf(
  { creator, dayStartHour }: Api['SettingsDto'],
  sample: Sample | null,
  naming: Naming,
  seqStart: number,
): IntakePlan {
  const { title = 'Harbour regatta', date = '2031-04-18', client = '', place = '' } = sample?.shoot ?? {};
  return planIntake(
    {
      frames: planFrames(sample),
      extras: [],
      shoot: { title, date, client, place },
      creator,
      card: 'OCKHAM',
      ...naming,
      seqStart,
      zoneMinutes: 0,
      dayStartHour,
    },
    () => false,
  );
}
