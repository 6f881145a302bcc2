import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import type { SplitPart } from '@arkiv/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState, type Dispatch } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { bytes, many, mediumDay } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useShoot, useShootsNear } from '../../data/live';
import { KnownNames } from '../../parts/KnownNames';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { useSettled } from '../../parts/useSettled';
import { WayList } from '../../parts/WayList';
import { GROUND, MARKER, NOTE } from '../../theme/theme';
import { Choice } from './Choice';
import { Clocks } from './Clocks';
import { draftParts, joined, sampleFacts, type DraftInput, type ShootFields } from './draft';
import { intakeRequest, namesIn, type DraftAction, type DraftGround, type IntakeDraft } from './intakeDraft';
import { PlanDialog, type Naming } from '../../parts/PlanDialog';
import {
  driveWords,
  fieldsOf,
  hoursOf,
  lastNumber,
  nearest,
  planPause,
  sharesOf,
  stampWords,
  whatIsMissing,
} from './planWords';
import { NEW_TEMPLATE, TemplateDialog } from '../../parts/TemplateDialog';

interface Props {
  readerId: string;
  /** with the card as its clocks are corrected */
  ground: DraftGround;
  draft: IntakeDraft;
  dispatch: Dispatch<DraftAction>;
  /** keys of frames that stay on the card */
  leftOut: ReadonlySet<string>;
  /** keys of frames that are probably archived */
  known: readonly string[];
  /** the shoots that the card becomes; one part: one shoot */
  parts: readonly SplitPart[];
  onHover: (path: string | null) => void;
  onStarted: (jobId: string) => void;
}

// A calendar is as large as half of this screen: it comes when it is needed.
const DateField = lazy(() => import('../../parts/DateField'));

/** Which shoot, which names, which drives; every file's way is shown before anything happens. */
export function PlanForm(props: Props) {
  const { readerId, ground, draft, dispatch, leftOut, known, parts, onHover, onStarted } = props;
  const { card, settings, volumes } = ground;
  const { into, targets, naming: own, start, template, titles, corrections } = draft;
  const { register, control, watch, handleSubmit, formState } = useForm<ShootFields>({
    defaultValues: draft.fields,
  });
  const { title, date, client, place } = watch();
  const fields = useMemo(() => ({ title, date, client, place }), [title, date, client, place]);
  useEffect(() => dispatch({ type: 'fields', fields }), [fields, dispatch]);
  const [dialog, setDialog] = useState<'plan' | 'template' | null>(null);
  const { shoots, shoot } = useHomes(ground.shoots, date, into);
  const { naming, seqStart, zoneMinutes } = useMemo(
    () => namesIn({ naming: own, start }, shoot, { card, shoots: ground.shoots }),
    [own, start, shoot, card, ground.shoots],
  );
  const carriedOn = useMemo(() => lastNumber(ground.shoots), [ground.shoots]);
  const pause = planPause(card.frames.length);
  const typed = useSettled(fields, pause);
  const typedTitles = useSettled(titles, pause);
  const shares = useMemo(
    () => sharesOf(parts, shoot ? fieldsOf(shoot) : typed, typedTitles),
    [parts, shoot, typed, typedTitles],
  );
  const input: DraftInput = useMemo(
    () => ({
      ...{ card, settings, leftOut, known, naming, seqStart, zoneMinutes },
      others: shoots.filter(({ id }) => id !== shoot?.id),
    }),
    [card, settings, leftOut, known, naming, seqStart, zoneMinutes, shoots, shoot],
  );
  const plan = useMemo(() => joined(draftParts(input, shares)), [input, shares]);
  const planOf = useCallback(
    (another: Naming, from: number) => {
      const titled = shares.map((s) => ({
        ...s,
        fields: { ...s.fields, title: s.fields.title || 'untitled' },
      }));
      return joined(
        draftParts(
          { ...input, naming: another, seqStart: another.seqBy === 'carried' ? carriedOn : from },
          titled,
        ),
      );
    },
    [input, shares, carriedOn],
  );
  const compared = useMemo(() => {
    const keys = new Set(known);
    return card.frames.filter((f) => keys.has(f.key) && !leftOut.has(f.key));
  }, [known, card, leftOut]);
  const comparedBytes = compared.flatMap((f) => f.files).reduce((sum, f) => sum + f.size, 0);
  const files = plan.items.length - compared.flatMap((f) => f.files).length;
  const chosen = volumes.filter((v) => targets.includes(v.id));
  const tight = chosen.filter((v) => v.free !== null && v.free < plan.bytes - comparedBytes);
  const {
    run: begin,
    busy: starting,
    error,
  } = useAction(async (said: ShootFields) => {
    const asked = intakeRequest(
      { ...draft, fields: said },
      { readerId, card, shoots: ground.shoots, shoot, parts, known },
    );
    const { jobId } = await post('/intakes', asked);
    onStarted(jobId);
  });
  const untitled = plan.problems.some((p) => p.kind === 'no-title') && !formState.dirtyFields.title;
  const problems = untitled ? plan.problems.filter((p) => p.kind !== 'no-title') : plan.problems;
  const missing = whatIsMissing({
    title: plan.problems.some((p) => p.kind === 'no-title' || p.kind === 'bad-title'),
    problems: problems.length,
    files: plan.items.length,
    targets: targets.length,
    tight: tight.length,
  });
  const ready =
    plan.items.length > 0 && plan.problems.length === 0 && targets.length > 0 && tight.length === 0;
  const sample = sampleFacts(input, shares[0]!.fields);
  return (
    <Box
      component="form"
      onSubmit={(e) => void handleSubmit((said) => begin(said))(e)}
      sx={{
        display: 'flex',
        flexDirection: 'column',
        minHeight: 0,
        borderLeft: `1px solid ${GROUND.line}`,
        bgcolor: GROUND.raised,
      }}
    >
      <Box sx={{ overflow: 'auto', flex: '0 1 auto', minHeight: 180 }}>
        <Box sx={{ p: 2.5, pb: 1.5, display: 'grid', gap: 1.25, gridTemplateColumns: '1fr 1fr' }}>
          {shoots.length > 0 && (
            <TextField
              select
              label="Add to"
              value={into}
              onChange={(event) => dispatch({ type: 'into', id: event.target.value })}
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              sx={{ gridColumn: 'span 2' }}
            >
              <option value="">a new shoot</option>
              {shoots.map((s) => (
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
                onFocus={(event) => event.target.select()}
                label={shares.length > 1 ? `Shoot 1 · ${hoursOf(parts[0]!)}` : 'Shoot'}
                {...register('title')}
                autoFocus
                sx={{ gridColumn: 'span 2' }}
                slotProps={{ inputLabel: { shrink: true } }}
              />
              <TextField
                label="Client"
                {...register('client')}
                slotProps={{ htmlInput: { list: 'known-clients' } }}
              />
              <TextField
                label="Place"
                {...register('place')}
                slotProps={{ htmlInput: { list: 'known-places' } }}
              />
              <KnownNames id="known-clients" of="client" />
              <KnownNames id="known-places" of="place" />
              <Box sx={{ gridColumn: 'span 2', minHeight: 40 }}>
                <Suspense fallback={null}>
                  <Controller
                    control={control}
                    name="date"
                    render={({ field }) => (
                      <DateField label="Date" value={field.value} onChange={field.onChange} />
                    )}
                  />
                </Suspense>
              </Box>
            </>
          )}
          {parts.slice(1).map((part, i) => (
            <TextField
              key={part.keys[0]}
              label={`Shoot ${i + 2} · ${hoursOf(part)}`}
              value={titles[part.keys[0]!] ?? ''}
              placeholder={shares[i + 1]!.fields.title}
              onChange={(event) => dispatch({ type: 'title', key: part.keys[0]!, title: event.target.value })}
              slotProps={{ inputLabel: { shrink: true, sx: { color: MARKER } } }}
              sx={{ gridColumn: 'span 2' }}
            />
          ))}
          <Choice
            title="Names"
            said={
              plan.frames[0]?.name ??
              (plan.problems[0]?.kind === 'no-title'
                ? 'made of the shoot’s title'
                : 'cannot be made: see below')
            }
            more={plan.frames.length > 0 ? plan.folders[0] : undefined}
            action="Names and folders …"
            disabled={shoot !== null}
            onOpen={() => setDialog('plan')}
          />
          <Choice
            title="Metadata"
            said={template ? template.name || 'for this card only' : 'no template'}
            more={template ? stampWords(template) : undefined}
            action="Template …"
            onOpen={() => setDialog('template')}
          >
            {settings.templates.length > 0 && (
              <TextField
                select
                label="Apply template"
                value={template === null ? '' : template.id || 'own'}
                onChange={(event) =>
                  dispatch({
                    type: 'template',
                    template: settings.templates.find((t) => t.id === event.target.value) ?? null,
                  })
                }
                slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
                fullWidth
              >
                <option value="">nothing</option>
                {template && template.id === '' && <option value="own">for this card only</option>}
                {settings.templates.map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
              </TextField>
            )}
          </Choice>
          <Clocks
            readerId={readerId}
            card={card}
            shoot={shoot}
            zoneMinutes={zoneMinutes}
            corrections={corrections}
            onCorrections={(next) => dispatch({ type: 'corrections', corrections: next })}
          />
        </Box>
        <Box sx={{ px: 2.5, pb: 1.5 }} role="group" aria-label="Copy to">
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
                  disabled={!volume.online || volume.readOnly}
                  checked={targets.includes(volume.id)}
                  onChange={(_, on) => dispatch({ type: 'target', id: volume.id, on })}
                />
              }
              label={`${volume.name} · ${driveWords(volume)}`}
            />
          ))}
        </Box>
      </Box>
      <WayList
        ways={plan.items}
        problems={problems.map((p) => p.message)}
        // Nothing was entered yet: it is to be done, and nobody's mistake.
        todo={
          untitled && problems.length === 0 ? 'Names and folders are made of the shoot’s title.' : undefined
        }
        warnings={plan.warnings.map((p) => p.message)}
        onHover={onHover}
      />
      <Box sx={{ p: 2.5, pt: 1.5, borderTop: `1px solid ${GROUND.line}` }}>
        {tight.map((v) => (
          <Problem
            key={v.id}
            error={
              new Error(
                `“${v.name}” has ${bytes(v.free ?? 0)} free, ${bytes(plan.bytes - comparedBytes)} are needed. Choose another drive.`,
              )
            }
          />
        ))}
        <Problem error={error} />
        <Button type="submit" variant="contained" fullWidth size="large" disabled={!ready || starting}>
          {!ready
            ? 'Copy and verify'
            : files === 0
              ? `Compare ${many(compared.length, 'frame')} with the archive`
              : `Copy ${many(files, 'file')}, ${bytes(plan.bytes - comparedBytes)}, to ${many(chosen.length, 'drive')} and verify`}
        </Button>
        <Typography variant="body2" sx={{ color: 'text.secondary', mt: 1 }}>
          {missing ?? 'The card is only read. Nothing on it is changed or removed.'}
          {compared.length > 0 && (
            <Box component="span" sx={{ color: NOTE }}>
              {' '}
              {many(compared.length, 'frame')} look archived: compared by content, copied only if new.
            </Box>
          )}
        </Typography>
      </Box>
      {dialog === 'plan' && (
        <PlanDialog
          settings={settings}
          naming={own}
          seqStart={start}
          carriedOn={carriedOn}
          pause={pause}
          useWords="Use for this card"
          draft={planOf}
          onUse={(another, from) => {
            dispatch({ type: 'naming', naming: another, start: from });
            setDialog(null);
          }}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'template' && (
        <TemplateDialog
          settings={settings}
          template={template ?? NEW_TEMPLATE}
          facts={sample.facts}
          camera={sample.camera}
          useWords="Use for this card"
          onUse={(another) => {
            dispatch({ type: 'template', template: another });
            setDialog(null);
          }}
          onClose={() => setDialog(null)}
        />
      )}
    </Box>
  );
}

/** Shoots that a card may go into, those of the nearest days first; and the chosen one, however far off it is. */
function useHomes(
  newest: readonly Api['ShootDto'][],
  date: string,
  into: string,
): { shoots: Api['ShootDto'][]; shoot: Api['ShootDto'] | null } {
  const { data: near } = useShootsNear(useSettled(date, NEAR_PAUSE));
  const { data: chosen } = useShoot(into || undefined);
  const shoots = useMemo(
    // Nothing is put into an adopted folder.
    () =>
      nearest(
        (near ?? newest).filter(({ keptIn }) => !keptIn),
        date,
      ),
    [near, newest, date],
  );
  const shoot = into === '' ? null : (shoots.find(({ id }) => id === into) ?? chosen ?? null);
  const listed = shoot === null || shoots.some(({ id }) => id === shoot.id);
  return { shoots: listed ? shoots : [shoot, ...shoots], shoot };
}

/** Milliseconds without a change of the date before shoots near it are asked for. */
const NEAR_PAUSE = 300;
