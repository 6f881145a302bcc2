import { Box, Button } from '@mui/material';
import { bodyNames } from '@arkiv/core';
import { useMemo, useState, useSyncExternalStore } from 'react';
import { clockOf, numberOf, ownClockOf, previewUrl } from '../../data/frames';
import { put, type Api } from '../../data/http';
import { shootStore } from '../../data/shootStore';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { INK } from '../../theme/theme';
import { ClockDialog, type ClockFrame } from '../intake/ClockDialog';
import { ShiftField } from '../intake/Clocks';

/** The clocks of a shoot's bodies, put right after their frames are here; order changes, names and files do not. */
export function ShootClocks({ shoot }: { shoot: Api['ShootDto'] }) {
  const store = shootStore(shoot.id);
  const { frames } = useSyncExternalStore(store.subscribe, store.snapshot);
  const [open, setOpen] = useState<string | null>(null);
  const bodies = useMemo(() => {
    const millis = new Map<string, number>();
    for (const frame of frames) if (frame.body) millis.set(frame.body, frame.correctionMillis);
    return [...millis];
  }, [frames]);
  const names = useMemo(() => bodyNames(bodies.map(([body]) => body)), [bodies]);
  const timed = useMemo(
    () =>
      frames.flatMap((frame): (ClockFrame & { corrected: Pick<ClockFrame, 'instant' | 'clock'> })[] =>
        frame.instant === null || !frame.picture || !frame.body
          ? []
          : [
              {
                id: frame.id,
                body: frame.body,
                name: numberOf(frame.name),
                src: previewUrl(frame.picture, 'thumb'),
                instant: frame.instant - frame.correctionMillis,
                clock: ownClockOf(frame),
                corrected: { instant: frame.instant, clock: clockOf(frame) },
              },
            ],
      ),
    [frames],
  );
  const {
    run: set,
    error,
    again,
  } = useAction((body: string, millis: number) => {
    setOpen(null);
    return put(`/shoots/${shoot.id}/clocks`, { corrections: [{ body, millis }] });
  });
  if (bodies.length === 0) return null;
  return (
    <Section title="Clocks" folded="files.clocks">
      <Box sx={{ color: INK.soft, mb: 1.5 }}>
        What is added to a body’s times changes the order of its frames. The times that the camera wrote and
        the files’ names stay as they are.
      </Box>
      {bodies.map(([body, millis]) => (
        <Box key={body} sx={{ display: 'grid', gridTemplateColumns: '1fr auto', gap: 1, mb: 1.25 }}>
          <ShiftField
            key={millis}
            name={names.get(body) ?? body}
            millis={millis}
            onShift={(n) => n !== millis && set(body, n)}
          />
          <Button
            color="inherit"
            size="small"
            disabled={bodies.length < 2}
            title={
              bodies.length < 2 ? 'This shoot has one body: there is nothing to compare with.' : undefined
            }
            onClick={() => setOpen(body)}
          >
            Match clocks …
          </Button>
        </Box>
      ))}
      <Problem error={error} again={again} />
      {open !== null && (
        <ClockDialog
          body={names.get(open) ?? open}
          frames={timed.filter((f) => f.body === open)}
          others={timed.filter((f) => f.body !== open).map((f) => ({ ...f, ...f.corrected }))}
          shoot={null}
          millis={bodies.find(([body]) => body === open)?.[1] ?? 0}
          onSet={(millis) => set(open, millis)}
          onClose={() => setOpen(null)}
        />
      )}
    </Section>
  );
}
