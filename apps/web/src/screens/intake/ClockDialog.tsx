import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { formatClockShift } from '@arkiv/core';
import { useMemo, useState, useSyncExternalStore } from 'react';
import { clockOf, numberOf, previewUrl } from '../../data/frames';
import type { Api } from '../../data/http';
import { shootStore } from '../../data/shootStore';
import { ContactSheet } from '../../parts/ContactSheet';
import { SheetCell } from '../../parts/SheetCell';
import { sheetList } from '../../parts/sheetRows';
import { CAPTION, GROUND, INK, NOTE } from '../../theme/theme';

export interface ClockFrame {
  id: string;
  body: string;
  name: string;
  src: string;
  /** milliseconds since 1970 UTC, by the body's own clock (of the reference: by its corrected one) */
  instant: number;
  /** wall clock as the body wrote it */
  clock: string;
}

interface Props {
  body: string;
  frames: ClockFrame[];
  /** frames of other bodies on the same card */
  others: ClockFrame[];
  shoot: Api['ShootDto'] | null;
  millis: number;
  onSet: (millis: number) => void;
  onClose: () => void;
}

/** Finds a body's shift from two frames that show the same moment, and shows how the frames then lie in time. */
export function ClockDialog({ body, frames, others, shoot, millis, onSet, onClose }: Props) {
  const archived = useShootFrames(shoot?.id ?? null);
  const reference = archived.length > 0 ? archived : others;
  const [own, setOwn] = useState(0);
  const [theirs, setTheirs] = useState(0);
  const [picked, setPicked] = useState(false);
  const [left, right] = [frames[own], reference[theirs]];
  const shift = picked && left && right ? right.instant - left.instant : millis;
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth={false}
      aria-labelledby="clock-title"
      slotProps={{ paper: { sx: { width: 1180, height: '90vh', borderRadius: 0 } } }}
    >
      <DialogTitle id="clock-title" sx={{ pb: 0.5 }}>
        Match clocks by the same moment
      </DialogTitle>
      <DialogContent
        sx={{ display: 'flex', flexDirection: 'column', gap: 1.5, minHeight: 0, overflow: 'hidden' }}
      >
        <Typography sx={{ color: 'text.secondary' }}>
          Choose a frame on each side that was taken at the same moment. The times that the camera wrote stay
          in the files; order and names go by the corrected ones.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, flex: 1, minHeight: 0 }}>
          <Side
            title={`This card: ${body}`}
            frames={frames}
            at={own}
            onPick={(i) => {
              setOwn(i);
              setPicked(true);
            }}
          />
          <Side
            title={archived.length > 0 ? `In “${shoot!.title}”` : 'Other bodies on this card'}
            frames={reference}
            at={theirs}
            onPick={(i) => {
              setTheirs(i);
              setPicked(true);
            }}
          />
        </Box>
        <ClockStrip own={frames} reference={reference} shift={shift} />
        <Box sx={{ color: shift === 0 ? INK.soft : NOTE }} role="status">
          {shift === 0
            ? 'The clock is taken as it is.'
            : `${formatClockShift(shift)} is added to the times of this body${left && right && picked ? `: its ${left.clock} is ${right.clock}` : ''}.`}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" onClick={() => onSet(shift)} disabled={!left || !right}>
          Use {formatClockShift(shift)}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The frames of a shoot as references; none while it is loading, and for no shoot. */
function useShootFrames(shootId: string | null): ClockFrame[] {
  const store = shootId === null ? null : shootStore(shootId);
  const frames = useSyncExternalStore(
    store?.subscribe ?? noSubscription,
    store ? () => store.snapshot().frames : () => NO_FRAMES,
  );
  return useMemo(
    () =>
      frames.flatMap((frame) =>
        frame.instant === null || !frame.picture
          ? []
          : [
              {
                id: frame.id,
                body: frame.body ?? '',
                name: numberOf(frame.name),
                src: previewUrl(frame.picture, 'thumb'),
                instant: frame.instant,
                clock: clockOf(frame),
              },
            ],
      ),
    [frames],
  );
}

const NO_FRAMES: never[] = [];
const noSubscription = () => () => undefined;

function Side({
  title,
  frames,
  at,
  onPick,
}: {
  title: string;
  frames: ClockFrame[];
  at: number;
  onPick: (index: number) => void;
}) {
  const sorted = useMemo(() => sheetList(frames.map((f) => ({ key: f.id, heading: '' }))), [frames]);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, bgcolor: GROUND.base, p: 1 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      <Box
        sx={{ flex: 1, minHeight: 0 }}
        onKeyDown={(event) => {
          const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
          const next = at + (by ?? 0);
          if (by !== undefined && frames[next]) onPick(next);
        }}
      >
        <ContactSheet
          label={title}
          list={sorted}
          cell={160}
          current={at}
          render={(i, width, height, id) => {
            const frame = frames[i]!;
            return (
              <SheetCell
                index={i}
                id={id}
                src={frame.src}
                name={`${frame.name}, ${frame.clock}`}
                caption={`${frame.name} · ${frame.clock}`}
                verdict="undecided"
                stars={0}
                label={null}
                selected={false}
                current={i === at}
                width={width}
                height={height}
                onPick={onPick}
              />
            );
          }}
        />
      </Box>
    </Box>
  );
}

const STRIP = { width: 1130, height: 46 };

/** Both bodies on one time axis: the reference above, this body below, as it lies with the shift. */
function ClockStrip({
  own,
  reference,
  shift,
}: {
  own: ClockFrame[];
  reference: ClockFrame[];
  shift: number;
}) {
  const all = [...reference.map((f) => f.instant), ...own.map((f) => f.instant + shift)];
  const [first, last] = [Math.min(...all), Math.max(...all)];
  const x = (instant: number) => 4 + ((instant - first) / Math.max(1, last - first)) * (STRIP.width - 8);
  const { width, height } = STRIP;
  return (
    <Box>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width="100%"
        role="img"
        aria-label="Both bodies on one time axis"
      >
        <rect width={width} height={height} fill={GROUND.deep} />
        {reference.map((f) => (
          <rect key={f.id} x={x(f.instant)} y={3} width={1.5} height={18} fill={INK.soft} />
        ))}
        {own.map((f) => (
          <rect key={f.id} x={x(f.instant + shift)} y={25} width={1.5} height={18} fill={NOTE} />
        ))}
      </svg>
      <Box sx={{ ...CAPTION, color: INK.faint }}>
        above: what it is compared with · below: this body, put right
      </Box>
    </Box>
  );
}
