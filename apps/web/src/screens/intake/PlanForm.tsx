import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { NAME_FIELDS, planIntake, type ClockCorrection, type IntakePlan } from '@arkiv/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { useForm } from 'react-hook-form';
import { bytes, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { Clocks } from './Clocks';

interface Props {
  readerId: string;
  card: Api['CardDto'];
  settings: Api['SettingsDto'];
  volumes: Api['VolumeDto'][];
  shoots: Api['ShootDto'][];
  /** keys of frames that stay on the card */
  leftOut: ReadonlySet<string>;
  corrections: readonly ClockCorrection[];
  onCorrections: (corrections: ClockCorrection[]) => void;
  onHover: (path: string | null) => void;
  onStarted: (jobId: string) => void;
}

interface Fields {
  title: string;
  date: string;
  client: string;
  place: string;
  pattern: string;
  folder: string;
  seqStart: number;
}

/** Which shoot, which names, which drives; every file's way is shown before anything happens. */
export function PlanForm(props: Props) {
  const { readerId, card, settings, volumes, shoots, leftOut, corrections, onCorrections } = props;
  const { onHover, onStarted } = props;
  const { register, watch, handleSubmit } = useForm<Fields>({
    defaultValues: {
      title: '',
      date: firstDay(card),
      client: '',
      place: '',
      pattern: settings.pattern,
      folder: settings.folders.path,
      seqStart: 1,
    },
  });
  const fields = watch();
  const [targets, setTargets] = useState(() =>
    volumes.filter((v) => v.online && v.role !== 'edit').map((v) => v.id),
  );
  const [error, setError] = useState<unknown>(null);
  const [starting, setStarting] = useState(false);
  const [into, setInto] = useState('');
  const shoot = shoots.find((s) => s.id === into) ?? null;
  const zoneMinutes = useMemo(() => shoot?.zoneMinutes ?? zoneOf(card), [shoot, card]);
  const plan = useMemo(
    () => draft(card, leftOut, settings, shoot ? fieldsOf(shoot, fields) : fields, zoneMinutes),
    [card, leftOut, settings, shoot, fields, zoneMinutes],
  );
  const chosen = volumes.filter((v) => targets.includes(v.id));
  const tight = chosen.filter((v) => v.free !== null && v.free < plan.bytes);
  const start = async () => {
    setStarting(true);
    try {
      const { folder, seqStart, ...rest } = shoot ? fieldsOf(shoot, fields) : fields;
      const body = {
        ...rest,
        ...(shoot && { shootId: shoot.id }),
        corrections: [...corrections],
        leaveOut: [...leftOut],
        readerId,
        fingerprint: card.fingerprint,
        folders: { ...settings.folders, path: folder },
        seqStart: Number(seqStart),
        zoneMinutes,
        targets,
      };
      const { jobId } = await post<Api['StartedIntakeDto']>('/intakes', body);
      onStarted(jobId);
    } catch (e) {
      setError(e);
      setStarting(false);
    }
  };
  const ready =
    plan.items.length > 0 && plan.problems.length === 0 && targets.length > 0 && tight.length === 0;
  return (
    <Box
      component="form"
      onSubmit={(e) => void handleSubmit(start)(e)}
      sx={{
        display: 'flex',
        flexDirection: 'column',
        minHeight: 0,
        borderLeft: `1px solid ${GROUND.line}`,
        bgcolor: GROUND.raised,
      }}
    >
      <Box sx={{ p: 2.5, pb: 1.5, display: 'grid', gap: 1.5, gridTemplateColumns: '1fr 1fr' }}>
        {shoots.length > 0 && (
          <TextField
            select
            label="Goes into"
            value={into}
            onChange={(event) => setInto(event.target.value)}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            sx={{ gridColumn: 'span 2' }}
          >
            <option value="">a new shoot</option>
            {nearest(shoots, fields.date).map((s) => (
              <option key={s.id} value={s.id}>
                {s.title} · {mediumDay(s.date)} · {many(s.frames, 'frame')}
              </option>
            ))}
          </TextField>
        )}
        {shoot ? (
          <Typography variant="body2" sx={{ gridColumn: 'span 2', color: 'text.secondary' }}>
            Names and folders as in “{shoot.title}”; its numbers carry on at {shoot.nextSeq}. What is marked
            there stays as it is.
          </Typography>
        ) : (
          <>
            <TextField
              label="Shoot"
              {...register('title')}
              autoFocus
              sx={{ gridColumn: 'span 2' }}
              required
            />
            <TextField label="Client" {...register('client')} />
            <TextField label="Place" {...register('place')} />
            <TextField
              label="Date"
              type="date"
              {...register('date')}
              slotProps={{ inputLabel: { shrink: true } }}
            />
            <TextField label="Numbers start at" type="number" {...register('seqStart')} />
            <TextField
              label="Name pattern"
              {...register('pattern')}
              sx={{ gridColumn: 'span 2' }}
              slotProps={{ htmlInput: { spellCheck: false } }}
              helperText={`Fields: ${Object.keys(NAME_FIELDS).join(', ')}`}
            />
            <TextField
              label="Folder"
              {...register('folder')}
              sx={{ gridColumn: 'span 2' }}
              slotProps={{ htmlInput: { spellCheck: false } }}
            />
          </>
        )}
        <Clocks
          readerId={readerId}
          card={card}
          shoot={shoot}
          zoneMinutes={zoneMinutes}
          corrections={corrections}
          onCorrections={onCorrections}
        />
      </Box>
      <Box sx={{ px: 2.5 }} role="group" aria-label="Copy to">
        <Typography variant="h2">Copy to</Typography>
        {volumes.map((volume) => (
          <FormControlLabel
            key={volume.id}
            sx={{ display: 'flex', m: 0 }}
            control={
              <Checkbox
                size="small"
                color="default"
                sx={{ p: 0.5 }}
                disabled={!volume.online}
                checked={targets.includes(volume.id)}
                onChange={(_, on) =>
                  setTargets(on ? [...targets, volume.id] : targets.filter((t) => t !== volume.id))
                }
              />
            }
            label={`${volume.name} · ${volume.online ? `${bytes(volume.free ?? 0)} free` : 'not there'}`}
          />
        ))}
      </Box>
      <Ways plan={plan} onHover={onHover} />
      <Box sx={{ p: 2.5, pt: 1.5, borderTop: `1px solid ${GROUND.line}` }}>
        {tight.map((v) => (
          <Problem
            key={v.id}
            error={
              new Error(
                `“${v.name}” has ${bytes(v.free ?? 0)} free, ${bytes(plan.bytes)} are needed. Choose another drive.`,
              )
            }
          />
        ))}
        <Problem error={error} />
        <Button type="submit" variant="contained" fullWidth size="large" disabled={!ready || starting}>
          {ready
            ? `Copy ${many(plan.items.length, 'file')}, ${bytes(plan.bytes)}, to ${many(chosen.length, 'drive')} and verify`
            : 'Copy and verify'}
        </Button>
        <Typography variant="body2" sx={{ color: 'text.secondary', mt: 1 }}>
          {targets.length === 0
            ? 'Choose at least one drive; two make the card safe to clear.'
            : 'The card is only read. Nothing on it is changed or removed.'}
        </Typography>
      </Box>
    </Box>
  );
}

/** Shoots that a card may belong to: those of the nearest days first. */
function nearest(shoots: readonly Api['ShootDto'][], date: string): Api['ShootDto'][] {
  const far = (s: Api['ShootDto']) => Math.abs(Date.parse(s.date) - Date.parse(date));
  return [...shoots].sort((a, b) => far(a) - far(b)).slice(0, NEAREST);
}

/** As many as a list shows without a search; older shoots are rarely added to. */
const NEAREST = 30;

function fieldsOf(shoot: Api['ShootDto'], typed: Fields): Fields {
  const { title, date, client, place, pattern, folderPath, nextSeq } = shoot;
  return { ...typed, title, date, client, place, pattern, folder: folderPath, seqStart: nextSeq };
}

/** Height of one from → to pair. */
const ROW = 38;

function Ways({ plan, onHover }: { plan: IntakePlan; onHover: (path: string | null) => void }) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: plan.items.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const [problem, ...more] = plan.problems;
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 90,
        mt: 1.5,
        display: 'flex',
        flexDirection: 'column',
        borderTop: `1px solid ${GROUND.line}`,
      }}
    >
      <Box sx={{ px: 2.5, pt: 1, display: 'flex' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Every file’s way
        </Typography>
        <Box sx={{ color: INK.faint }}>{many(plan.items.length, 'file')}</Box>
      </Box>
      {problem && (
        <Box role="alert" sx={{ px: 2.5, pt: 0.5, color: STRIKE_TEXT, overflow: 'auto', maxHeight: 84 }}>
          {problem.message}
          {more.length > 0 && ` And ${many(more.length, 'more problem')}.`}
        </Box>
      )}
      <Box
        ref={scroller}
        tabIndex={0}
        aria-label="Every file’s way"
        role="list"
        sx={{ flex: 1, overflow: 'auto', px: 2.5, py: 1 }}
      >
        <Box role="presentation" sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((row) => {
            const item = plan.items[row.index]!;
            return (
              <Box
                key={item.from}
                role="listitem"
                onMouseEnter={() => onHover(item.from)}
                onMouseLeave={() => onHover(null)}
                sx={{
                  ...CAPTION,
                  position: 'absolute',
                  insetInline: 0,
                  height: ROW,
                  transform: `translateY(${row.start}px)`,
                  fontSize: 12.5,
                  lineHeight: 1.35,
                  whiteSpace: 'nowrap',
                  '&:hover': { bgcolor: GROUND.base },
                }}
              >
                <Box sx={{ color: INK.soft, overflow: 'hidden', textOverflow: 'ellipsis' }}>{item.from}</Box>
                <Box
                  sx={{ overflow: 'hidden', textOverflow: 'ellipsis', direction: 'rtl', textAlign: 'left' }}
                >
                  <bdi>→ {item.to}</bdi>
                </Box>
              </Box>
            );
          })}
        </Box>
      </Box>
    </Box>
  );
}

function draft(
  card: Api['CardDto'],
  leftOut: ReadonlySet<string>,
  settings: Api['SettingsDto'],
  fields: Fields,
  zoneMinutes: number,
): IntakePlan {
  return planIntake({
    frames: card.frames.filter((frame) => !leftOut.has(frame.key)),
    extras: card.extras,
    shoot: { title: fields.title, date: fields.date, client: fields.client, place: fields.place },
    creator: settings.creator,
    card: card.card,
    pattern: fields.pattern,
    folders: { ...settings.folders, path: fields.folder },
    seqStart: Number(fields.seqStart) || 0,
    zoneMinutes,
    dayStartHour: settings.dayStartHour,
  });
}

function firstDay(card: Api['CardDto']): string {
  const days = card.frames.flatMap((f) => f.facts.capture?.local.slice(0, 10) ?? []).sort();
  return days[0] ?? new Date().toISOString().slice(0, 10);
}

/** The zone for cameras that wrote none: the first one written on the card, else this computer's. */
function zoneOf(card: Api['CardDto']): number {
  const written = card.frames.find((f) => f.facts.capture?.offsetMinutes != null)?.facts.capture
    ?.offsetMinutes;
  return written ?? -new Date().getTimezoneOffset();
}
