import { Box, TextField, Typography } from '@mui/material';
import { deedOf, describe, LABELS, type Filter, type Label, type QueryFrame } from '@arkiv/core';
import { useState } from 'react';
import { many } from '../../data/format';
import { labelName } from '../../data/labels';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { Problem } from '../../parts/Problem';
import { INK } from '../../theme/theme';
import { countMatching, type Sample } from './useSample';

type Rule = 'keeper' | 'reject';

/** Rules that can be chosen, by a key for the list; whatever else was set stays as it is until another is chosen. */
function choices(
  rule: Rule,
  settings: Api['SettingsDto'],
  keeper: Filter,
): Record<string, { words: string; filter: Filter }> {
  const stars = Object.fromEntries(
    [1, 2, 3, 4, 5].map((n) => [
      `stars-${n}`,
      { words: `${n}★ or more`, filter: { field: 'stars', atLeast: n } as Filter },
    ]),
  );
  const labels = Object.fromEntries(
    LABELS.map((label: Label) => [
      `label-${label}`,
      {
        words: `label ${label} ${labelName(settings, label)}`,
        filter: { field: 'label', is: label } as Filter,
      },
    ]),
  );
  return rule === 'keeper'
    ? { verdict: { words: 'marked keep', filter: { field: 'verdict', is: 'keep' } }, ...stars, ...labels }
    : {
        verdict: { words: 'marked reject', filter: { field: 'verdict', is: 'reject' } },
        'stars-1': { words: 'exactly 1★', filter: { field: 'stars', is: 1 } },
        ...labels,
        rest: { words: 'no keeper: what is unmarked is unwanted', filter: { not: keeper } },
      };
}

/** Which frames go on to editing and to the client, and which are out. */
export function Rules({ settings, sample }: { settings: Api['SettingsDto']; sample: Sample | null }) {
  const [error, setError] = useState<unknown>(null);
  const rules = settings.rules as unknown as Record<Rule, Filter>;
  const choose = (rule: Rule, filter: Filter) =>
    void changeSettings((now) => {
      const before = now.rules as unknown as Record<Rule, Filter>;
      // “No keeper” goes by what a keeper is.
      const rest =
        rule === 'keeper' && same(before.reject, { not: before.keeper }) ? { reject: { not: filter } } : {};
      return { rules: { ...before, ...rest, [rule]: filter } as unknown as Api['KeeperRulesDto'] };
    }).then(() => setError(null), setError);
  return (
    <Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fit, minmax(320px, 1fr))',
          gap: 2.5,
          mt: 1.5,
        }}
      >
        {(['keeper', 'reject'] as const).map((rule) => {
          const offered = choices(rule, settings, rules.keeper);
          const now = Object.keys(offered).find((key) => same(offered[key]!.filter, rules[rule]));
          return (
            <TextField
              key={rule}
              select
              label={rule === 'keeper' ? 'A keeper is a frame that is' : 'A reject is a frame that is'}
              value={now ?? 'own'}
              onChange={(event) => choose(rule, offered[event.target.value]!.filter)}
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              helperText={sample && effect(sample, rules[rule], rule)}
            >
              {now === undefined && <option value="own">{describe(rules[rule])}</option>}
              {Object.entries(offered).map(([key, { words }]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </TextField>
          );
        })}
      </Box>
      <Typography variant="body2" sx={{ color: INK.soft, mt: 1.5 }}>
        “Left” in the job line, hand-off and delivery go by these rules, and the keys for keep and reject
        write what they read: {deedWords(rules)}. Changing them moves no file and changes no mark.
      </Typography>
      <SaidOfKeepers settings={settings} onError={setError} />
      <Problem error={error} />
    </Box>
  );
}

/** What sidecars say of keepers to programs that know stars and labels, and no verdict. */
function SaidOfKeepers({
  settings,
  onError,
}: {
  settings: Api['SettingsDto'];
  onError: (error: unknown) => void;
}) {
  const { keeperStars, keeperLabel } = settings;
  const change = (values: Partial<Pick<Api['SettingsDto'], 'keeperStars' | 'keeperLabel'>>) =>
    void changeSettings(() => values).then(() => onError(null), onError);
  return (
    <Box sx={{ mt: 2.5 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(320px, 1fr))', gap: 2.5 }}>
        <TextField
          select
          label="Other programs see a keep without stars as"
          value={keeperStars}
          onChange={(event) => change({ keeperStars: Number(event.target.value) })}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value={0}>no stars</option>
          {[1, 2, 3, 4, 5].map((n) => (
            <option key={n} value={n}>
              {n}★
            </option>
          ))}
        </TextField>
        <TextField
          select
          label="… and one without a label as"
          value={keeperLabel ?? ''}
          onChange={(event) => change({ keeperLabel: (event.target.value || null) as Label | null })}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <option value="">no label</option>
          {LABELS.map((label) => (
            <option key={label} value={label}>
              label {label} {labelName(settings, label)}
            </option>
          ))}
        </TextField>
      </Box>
      <Typography variant="body2" sx={{ color: INK.soft, mt: 1.5 }}>
        For programs that know no keep and reject. In Arkiv such a frame has no stars and no label, and given
        ones are never replaced. Sidecars of keeps are written anew when this changes.
      </Typography>
    </Box>
  );
}

function effect(sample: Sample, filter: Filter, rule: Rule): string {
  const n = countMatching(sample, filter);
  return `In “${sample.shoot.title}” ${many(n, rule)} of ${many(sample.frames.length, 'frame')}.`;
}

/** What the two keys write on a frame that has no mark. */
function deedWords(rules: Record<Rule, Filter>): string {
  const written = (deed: 'keep' | 'reject') =>
    deedOf(rules, deed, BLANK)
      .map(({ field, to }) => (field === 'stars' ? `${to}★` : field === 'label' ? `label ${to}` : String(to)))
      .join(' and ') || 'nothing, as an unmarked frame is out already';
  return `keep writes ${written('keep')}, reject ${written('reject')}`;
}

const BLANK = { verdict: 'undecided', stars: 0, label: null, note: null, piles: '' } as unknown as QueryFrame;

const same = (a: Filter, b: Filter): boolean => JSON.stringify(a) === JSON.stringify(b);
