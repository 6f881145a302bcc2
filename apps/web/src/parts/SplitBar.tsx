import { Box, Button, MenuItem, Select, ToggleButton, ToggleButtonGroup } from '@mui/material';
import type { SplitPart, SplitRule } from '@arkiv/core';
import { useCallback, useMemo } from 'react';
import { many } from '../data/format';
import { GROUND, INK } from '../theme/theme';
import { stripTicks, type TimedFrame } from './stripView';
import { TimeStrip, type StripFrame } from './TimeStrip';

/** A frame that may be split before. */
export interface SplitFrame extends StripFrame, TimedFrame {
  /** not among those that are split */
  hidden: boolean;
}

/** Minutes of a pause that may part two jobs: below a quarter of an hour it is a breath, above half a day a new day. */
const PAUSES = [15, 30, 60, 120, 240, 480] as const;

interface Props {
  /** in order of time */
  frames: readonly SplitFrame[];
  rule: SplitRule;
  parts: readonly SplitPart[];
  current: string | null;
  onRule: (rule: SplitRule) => void;
  onGo: (id: string) => void;
  /** the bar stands under a heading that says what it does */
  headed?: boolean;
}

/** The cuts as they are now, to be moved by hand. */
export const handCuts = (rule: SplitRule, parts: readonly SplitPart[]): readonly string[] =>
  rule.by === 'hand' ? rule.before : parts.slice(1).map((part) => part.keys[0]!);

/** Splits before a frame by hand, or takes that split away. */
export function splitBefore(rule: SplitRule, parts: readonly SplitPart[], key: string): SplitRule {
  const cuts = handCuts(rule, parts);
  return { by: 'hand', before: cuts.includes(key) ? cuts.filter((k) => k !== key) : [...cuts, key] };
}

/** Parts frames into shoots: the rule, and the cuts on the time strip. */
export function SplitBar({ frames, rule, parts, current, onRule, onGo, headed }: Props) {
  const ticks = useMemo(() => stripTicks(frames), [frames]);
  const at = frames.findIndex((f) => f.id === current);
  const hides = useCallback((i: number) => frames[i]!.hidden, [frames]);
  const cuts = useMemo(() => {
    const at = new Map(frames.map((f, i) => [f.id, i]));
    return parts.slice(1).flatMap((part) => at.get(part.keys[0]!) ?? []);
  }, [frames, parts]);
  const hand = rule.by === 'hand' ? rule.before : [];
  const isCut = current !== null && hand.includes(current);
  const mayCut = current !== null && frames[0]?.id !== current;
  return (
    <Box sx={{ border: `1px solid ${GROUND.line}`, borderBottom: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 1.5, py: 0.75 }}>
        {!headed && <Box sx={{ color: INK.soft }}>Split</Box>}
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="How the frames are split"
          value={rule.by}
          onChange={(_, by: SplitRule['by'] | null) => {
            if (by === 'gap') onRule({ by, minutes: 60 });
            else if (by === 'hand') onRule({ by, before: [...handCuts(rule, parts)] });
            else if (by) onRule({ by });
          }}
        >
          <ToggleButton value="none">don’t split</ToggleButton>
          <ToggleButton value="day">by day</ToggleButton>
          <ToggleButton value="gap">at pauses</ToggleButton>
          <ToggleButton value="hand">by hand</ToggleButton>
        </ToggleButtonGroup>
        {rule.by === 'gap' && (
          <Select
            size="small"
            variant="standard"
            value={rule.minutes}
            inputProps={{ 'aria-label': 'Pauses longer than' }}
            onChange={(event) => onRule({ by: 'gap', minutes: Number(event.target.value) })}
          >
            {PAUSES.map((minutes) => (
              <MenuItem key={minutes} value={minutes}>
                over {minutes < 60 ? `${minutes} minutes` : many(minutes / 60, 'hour')}
              </MenuItem>
            ))}
          </Select>
        )}
        {rule.by === 'hand' && (
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            disabled={!mayCut}
            sx={{ px: 1, py: 0 }}
            onClick={() => onRule(splitBefore(rule, parts, current!))}
          >
            {isCut ? 'Remove this split' : 'Split before this frame'}
          </Button>
        )}
        <Box sx={{ flex: 1 }} />
        <Box sx={{ color: parts.length > 1 ? INK.full : INK.faint }} role="status">
          {parts.length > 1
            ? `${parts.length} shoots`
            : rule.by === 'none'
              ? 'one shoot'
              : 'one shoot: nothing to split here'}
        </Box>
      </Box>
      <Box
        onKeyDown={(event) => {
          const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
          const next = by && frames[frames.findIndex((f) => f.id === current) + by];
          if (!next) return;
          onGo(next.id);
          event.preventDefault();
        }}
      >
        <TimeStrip
          frames={frames}
          ticks={ticks}
          current={at}
          clock={frames[at]?.clock}
          hides={hides}
          cuts={cuts}
          label="Time of the frames"
          onGo={onGo}
        />
      </Box>
    </Box>
  );
}
