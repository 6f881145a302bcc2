import { Box, Button, FormControlLabel, Radio, RadioGroup, TextField, Typography } from '@mui/material';
import {
  DEFAULT_RULES,
  facet,
  formatWords,
  INCOMPLETE,
  matches,
  type KeeperRules,
  type Verdict,
} from '@arkiv/core';
import { useEffect, useMemo, useRef, useState, memo } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { useOfOrder } from '../../data/ofOrder';
import type { ShootState } from '../../data/shootStore';
import { Tally, type KeysOf } from '../../data/tally';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { NO_FILTER, toFilter, type CullFilter, type StarsKind } from './cullState';

interface Props {
  shoot: ShootState;
  filter: CullFilter;
  rules: KeeperRules;
  onFilter: (filter: CullFilter) => void;
}

const VERDICTS: readonly Verdict[] = ['keep', 'undecided', 'reject'];
const STARS = [5, 4, 3, 2, 1, 0] as const;
const STARS_WORDS: Record<StarsKind, string> = {
  any: 'any',
  atLeast: 'at least',
  is: 'exactly',
  atMost: 'at most',
};

/** The one drawer of Cull: what is shown, with the count of each choice. */
export const FilterDrawer = memo(function FilterDrawer({ shoot, filter, rules, onFilter }: Props) {
  const first = useRef<HTMLDivElement>(null);
  useEffect(() => first.current?.querySelector<HTMLElement>('button')?.focus(), []);
  const formats = useOfOrder(shoot, formatsOf);
  const broken = useOfOrder(shoot, hasBroken);
  const choices = useMemo(() => choicesOf(filter, formats, rules), [filter, formats, rules]);
  const [tally] = useState(() => new Tally());
  const counts = tally.of(shoot, choices);
  const countFor = (choice: string) => counts.get(choice) ?? 0;
  const toggle = (verdict: Verdict) => {
    const verdicts = filter.verdicts.includes(verdict)
      ? filter.verdicts.filter((v) => v !== verdict)
      : [...filter.verdicts, verdict];
    onFilter({ ...filter, verdicts: verdicts.length === VERDICTS.length ? [] : verdicts });
  };
  return (
    <Box
      component="aside"
      aria-label="Filter"
      ref={first}
      sx={{
        width: 250,
        bgcolor: GROUND.base,
        borderLeft: `1px solid ${GROUND.line}`,
        p: 2,
        overflow: 'auto',
      }}
    >
      <Typography variant="h2" sx={{ mb: 1 }}>
        Verdict
      </Typography>
      {VERDICTS.map((verdict) => (
        <Choice
          key={verdict}
          pressed={filter.verdicts.includes(verdict)}
          words={verdict}
          count={countFor(verdict)}
          onClick={() => toggle(verdict)}
        />
      ))}
      <Typography variant="h2" id="filter-stars" sx={{ mt: 3, mb: 0.5 }}>
        Stars
      </Typography>
      <RadioGroup
        row
        aria-labelledby="filter-stars"
        value={filter.stars.kind}
        onChange={(_, kind) =>
          // None chosen yet hides nothing; “any” forgets what was chosen.
          onFilter({
            ...filter,
            stars: kind === 'any' ? NO_FILTER.stars : { ...filter.stars, kind: kind as StarsKind },
          })
        }
      >
        {(Object.keys(STARS_WORDS) as StarsKind[]).map((kind) => (
          <FormControlLabel
            key={kind}
            value={kind}
            control={<Radio size="small" color="default" sx={{ p: 0.5 }} />}
            label={STARS_WORDS[kind]}
            sx={{ width: 104, m: 0 }}
          />
        ))}
      </RadioGroup>
      {STARS.map((n) => (
        <Choice
          key={n}
          pressed={filter.stars.kind !== 'any' && filter.stars.n === n}
          words={n === 0 ? 'no stars' : `${n}★`}
          count={countFor(`${n}★`)}
          onClick={() =>
            onFilter({
              ...filter,
              stars: { kind: filter.stars.kind === 'any' ? 'is' : filter.stars.kind, n },
            })
          }
        />
      ))}
      <Kinds formats={formats} broken={broken} filter={filter} onFilter={onFilter} countFor={countFor} />
      <TextField
        label="Name, or the camera’s name"
        value={filter.text ?? ''}
        onChange={(event) => onFilter({ ...filter, text: event.target.value })}
        fullWidth
        sx={{ mt: 3 }}
        slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
      />
      <Button variant="outlined" color="inherit" fullWidth sx={{ mt: 2 }} onClick={() => onFilter(NO_FILTER)}>
        Show all {shoot.order.length}
      </Button>
      <Box sx={{ ...CAPTION, color: INK.soft, mt: 3 }}>H or Esc closes this drawer</Box>
    </Box>
  );
});

const formatsOf = (frames: readonly LoadedFrame[]): string[] =>
  [...facet('format', frames).keys()].map(String).sort();
const hasBroken = (frames: readonly LoadedFrame[]): boolean => frames.some(({ sign }) => sign === INCOMPLETE);

/** Which choices would show a frame, each with all else that is chosen. */
export function choicesOf(
  filter: CullFilter,
  formats: readonly string[],
  rules: KeeperRules = DEFAULT_RULES,
): KeysOf {
  const kind = filter.stars.kind === 'any' ? 'is' : filter.stars.kind;
  const changes: [string, Partial<CullFilter>][] = [
    ...VERDICTS.map((verdict): [string, Partial<CullFilter>] => [verdict, { verdicts: [verdict] }]),
    ...STARS.map((n): [string, Partial<CullFilter>] => [`${n}★`, { stars: { kind, n } }]),
    ...formats.map((format): [string, Partial<CullFilter>] => [`format ${format}`, { formats: [format] }]),
    [INCOMPLETE, { incomplete: true }],
  ];
  const asked = changes.map(([key, change]) => [key, toFilter({ ...filter, ...change }, rules)] as const);
  return (frame) => asked.flatMap(([key, its]) => (matches(its, frame) ? [key] : []));
}

/** Formats where there are several, and incomplete files where there are any. */
function Kinds({
  formats,
  broken,
  filter,
  onFilter,
  countFor,
}: Omit<Props, 'shoot' | 'rules'> & {
  formats: readonly string[];
  broken: boolean;
  countFor: (choice: string) => number;
}) {
  const { formats: chosen = [], incomplete = false } = filter;
  if (formats.length < 2 && !broken && !incomplete) return null;
  const toggle = (format: string) => {
    const next = chosen.includes(format) ? chosen.filter((f) => f !== format) : [...chosen, format];
    onFilter({ ...filter, formats: next.length === formats.length ? [] : next });
  };
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        Files
      </Typography>
      {formats.length > 1 &&
        formats.map((format) => (
          <Choice
            key={format}
            pressed={chosen.includes(format)}
            words={formatWords(format)}
            count={countFor(`format ${format}`)}
            onClick={() => toggle(format)}
          />
        ))}
      {(broken || incomplete) && (
        <Choice
          pressed={incomplete}
          words={INCOMPLETE}
          count={countFor(INCOMPLETE)}
          onClick={() => onFilter({ ...filter, incomplete: !incomplete })}
        />
      )}
    </>
  );
}

function Choice({
  pressed,
  words,
  count,
  onClick,
}: {
  pressed: boolean;
  words: string;
  count: number;
  onClick: () => void;
}) {
  return (
    <Box
      component="button"
      type="button"
      aria-pressed={pressed}
      onClick={onClick}
      sx={{
        display: 'flex',
        width: '100%',
        alignItems: 'center',
        gap: 1,
        border: 0,
        font: 'inherit',
        textAlign: 'left',
        py: 0.6,
        px: 1,
        color: pressed ? '#141414' : INK.full,
        bgcolor: pressed ? INK.full : 'transparent',
        cursor: 'pointer',
        '&:hover': { bgcolor: pressed ? INK.full : GROUND.raised },
      }}
    >
      <Box sx={{ flex: 1 }}>{words}</Box>
      <Box sx={{ color: pressed ? '#333' : INK.faint }}>{count}</Box>
    </Box>
  );
}
