import { Box, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { keptCapture, splitFrames, type SplitPart, type SplitRule } from '@arkiv/core';
import { useMemo, useState, useSyncExternalStore } from 'react';
import { mediumDay, many } from '../../data/format';
import { numberOf, previewUrl, type LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { useSettings } from '../../data/live';
import { shootStore } from '../../data/shootStore';
import { Section } from '../../parts/Section';
import { SplitBar } from '../../parts/SplitBar';
import { CAPTION, GROUND, INK, MARKER } from '../../theme/theme';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

/** Parts a shoot by day, at pauses or by hand; each further part becomes a shoot of its own. */
export function SplitShoot({ shoot }: { shoot: Api['ShootDto'] }) {
  const store = shootStore(shoot.id);
  const { frames } = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  const [rule, setRule] = useState<SplitRule>({ by: 'none' });
  const [current, setCurrent] = useState<string | null>(null);
  const [titles, setTitles] = useState<Readonly<Record<string, string>>>({});
  const [rename, setRename] = useState(true);
  const parts = useMemo(
    () =>
      splitFrames(
        frames.map((f) => ({ key: f.id, capture: keptCapture(f) })),
        rule,
        shoot.zoneMinutes,
        settings?.dayStartHour ?? 4,
      ),
    [frames, rule, shoot.zoneMinutes, settings],
  );
  const strip = useMemo(
    () =>
      frames.map((f) => ({
        id: f.id,
        instant: f.instant,
        clock: f.time?.slice(11, 16) ?? '',
        verdict: f.verdict,
        hidden: false,
      })),
    [frames],
  );
  const byId = useMemo(() => new Map(frames.map((f) => [f.id, f])), [frames]);
  const titleOf = (part: SplitPart, i: number) => titles[part.keys[0]!]?.trim() || `${shoot.title} ${i + 2}`;
  const [first, ...more] = parts.slice(1).map((part, i) => ({
    ...{ frameIds: part.keys, title: titleOf(part, i), date: part.day ?? shoot.date },
  }));
  // All of them in one go: nothing is left half split when this window is closed.
  const request: MoveRequest | null = first
    ? { kind: 'split', shootId: shoot.id, ...first, more, rename }
    : null;
  const { plan, error } = useMovePlan(request);
  const shown = current === null ? undefined : byId.get(current);
  return (
    <Section title="Split" folded="files.split">
      <SplitBar
        headed
        frames={strip}
        rule={rule}
        parts={parts}
        current={current ?? frames[0]?.id ?? null}
        onRule={setRule}
        onGo={setCurrent}
      />
      {rule.by === 'hand' && shown && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mt: 1 }}>
          <Thumb frame={shown} />
          <Box sx={{ color: INK.soft }}>is where the time strip stands; the split falls before it.</Box>
        </Box>
      )}
      {parts.slice(1).map((part, i) => (
        <Box key={part.keys[0]} sx={{ display: 'flex', alignItems: 'center', gap: 1.5, mt: 1.5 }}>
          <Thumb frame={byId.get(parts[i]!.keys.at(-1)!)} />
          <Box aria-hidden sx={{ alignSelf: 'stretch', borderLeft: `2px dashed ${MARKER}` }} />
          <Thumb frame={byId.get(part.keys[0]!)} />
          <TextField
            label={`Shoot ${i + 2} · ${part.day ? `${mediumDay(part.day)}, ${part.from}–${part.to} · ` : ''}${many(part.keys.length, 'frame')}`}
            value={titles[part.keys[0]!] ?? ''}
            placeholder={titleOf(part, i)}
            onChange={(event) => setTitles({ ...titles, [part.keys[0]!]: event.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
            sx={{ flex: 1 }}
          />
        </Box>
      ))}
      {request && (
        <>
          <FormControlLabel
            sx={{ mt: 1 }}
            control={
              <Checkbox size="small" color="default" checked={rename} onChange={(_, on) => setRename(on)} />
            }
            label="name the frames after their new shoot; otherwise they keep their names"
          />
          <MoveOutcome
            plan={plan}
            error={error}
            words={`Split into ${parts.length} shoots`}
            run={async () => {
              await moveNow(request);
              setRule({ by: 'none' });
            }}
          />
        </>
      )}
    </Section>
  );
}

function Thumb({ frame }: { frame: LoadedFrame | undefined }) {
  return (
    <Box sx={{ width: 96, flex: 'none' }}>
      <Box sx={{ height: 60, display: 'grid', placeItems: 'center', bgcolor: GROUND.deep }}>
        {frame?.picture && (
          <img src={previewUrl(frame.picture, 'thumb')} alt="" style={{ maxWidth: 96, maxHeight: 60 }} />
        )}
      </Box>
      <Box sx={{ ...CAPTION, fontSize: 12, color: INK.faint, overflow: 'hidden', whiteSpace: 'nowrap' }}>
        {frame && `${numberOf(frame.name)} · ${frame.time?.slice(11, 16) ?? 'no time'}`}
      </Box>
    </Box>
  );
}
