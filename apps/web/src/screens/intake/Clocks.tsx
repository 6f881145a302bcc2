import { Box, Button, TextField } from '@mui/material';
import {
  pictureOf,
  bodyKey,
  bodyNames,
  formatClockShift,
  instantMillis,
  parseClockShift,
  type CaptureTime,
  type ClockCorrection,
} from '@arkiv/core';
import { useMemo, useState } from 'react';
import type { Api } from '../../data/http';
import { CAPTION, INK } from '../../theme/theme';
import { ClockDialog, type ClockFrame } from './ClockDialog';

interface Props {
  readerId: string;
  /** with the corrections made so far */
  card: Api['CardDto'];
  shoot: Api['ShootDto'] | null;
  zoneMinutes: number;
  corrections: readonly ClockCorrection[];
  onCorrections: (corrections: ClockCorrection[]) => void;
}

/** The clocks of the card's bodies: as they are, or put right by a shift that is typed or found in two frames. */
export function Clocks({ readerId, card, shoot, zoneMinutes, corrections, onCorrections }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const frames = useMemo(() => clockFrames(readerId, card, zoneMinutes), [readerId, card, zoneMinutes]);
  const bodies = useMemo(() => [...new Set(frames.map((f) => f.body))], [frames]);
  const names = useMemo(() => bodyNames(bodies), [bodies]);
  const set = (body: string, millis: number) =>
    onCorrections([
      ...corrections.filter((c) => c.body !== body),
      ...(millis === 0 ? [] : [{ body, millis }]),
    ]);
  return (
    <Box sx={{ gridColumn: 'span 2', display: 'grid', gap: 1 }}>
      {bodies.map((body) => {
        const millis = corrections.find((c) => c.body === body)?.millis ?? 0;
        return (
          <Box key={body} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <ShiftField
              key={millis}
              name={names.get(body) ?? body}
              millis={millis}
              onShift={(n) => set(body, n)}
            />
            <Button
              color="inherit"
              size="small"
              disabled={!shoot && bodies.length < 2}
              title={
                shoot || bodies.length > 1
                  ? undefined
                  : 'There is nothing to compare with: choose the shoot that this card goes into.'
              }
              sx={{ whiteSpace: 'nowrap', flex: 'none' }}
              onClick={() => setOpen(body)}
            >
              Match clocks …
            </Button>
          </Box>
        );
      })}
      {open !== null && (
        <ClockDialog
          body={names.get(open) ?? open}
          frames={frames.filter((f) => f.body === open)}
          others={frames.filter((f) => f.body !== open)}
          shoot={shoot}
          millis={corrections.find((c) => c.body === open)?.millis ?? 0}
          onSet={(millis) => {
            set(open, millis);
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </Box>
  );
}

/** A clock's shift, typed. */
export function ShiftField({
  name,
  millis,
  onShift,
}: {
  /** what the body is called; empty: none is named */
  name: string;
  millis: number;
  onShift: (millis: number) => void;
}) {
  const [text, setText] = useState(formatClockShift(millis));
  const read = parseClockShift(text);
  return (
    <TextField
      label={name === '' ? 'Clock of frames that name no body' : `Clock of ${name}`}
      value={text}
      error={read === null}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => read !== null && onShift(read)}
      helperText={read === null ? 'Hours, minutes, seconds: +0:03:27' : undefined}
      slotProps={{
        htmlInput: { spellCheck: false, style: { ...CAPTION, color: millis === 0 ? INK.soft : INK.full } },
      }}
    />
  );
}

/** The card's timed frames, each with its own, uncorrected instant. */
function clockFrames(readerId: string, card: Api['CardDto'], zoneMinutes: number): ClockFrame[] {
  return card.frames.flatMap((frame) => {
    const { capture } = frame.facts;
    const picture = pictureOf(frame.files);
    if (!capture || !picture) return [];
    const own: CaptureTime = { ...capture, correctionMillis: 0 };
    return [
      {
        id: frame.key,
        body: bodyKey(frame.facts),
        name: frame.base,
        src: `/api/readers/${readerId}/picture?size=thumb&card=${card.fingerprint}&path=${encodeURIComponent(picture.path)}`,
        instant: instantMillis(own, zoneMinutes),
        clock: `${capture.local.slice(11)}.${String(Math.floor(capture.millis / 10)).padStart(2, '0')}`,
      },
    ];
  });
}
