import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { describePatternProblem, LONG_SIDE_RANGE, parsePattern, shownName } from '@arkiv/core';
import { useForm } from 'react-hook-form';
import { useParams } from 'react-router';
import useSWR from 'swr';
import { bytes, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { isOpen, useJobs, useSettings, useShoot, useVolumes } from '../../data/live';
import { JobRunning } from '../../parts/JobRunning';
import { KeeperThumbs } from '../../parts/KeeperThumbs';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { useGet } from '../../data/useGet';

/** Finished JPEGs of the keepers, with a manifest and a zip of all. */
export function DeliverScreen() {
  const { id } = useParams();
  const { data: shoot, error } = useShoot(id);
  const { data: volumes } = useVolumes();
  const { data: settings } = useSettings();
  const { data: jobs } = useJobs();
  const running = jobs?.find((j) => j.shootId === id && j.kind === 'delivery' && isOpen(j));
  const working = volumes?.find((v) => v.role === 'working' && v.online) ?? volumes?.find((v) => v.online);
  return (
    <Page
      title="Deliver"
      of={shoot && shownName(shoot.title)}
      lead={shoot && `${shoot.title}: finished files for the client. Originals are never changed.`}
    >
      <Problem error={error} />
      <Section title="A new set">
        <KeeperThumbs shootId={id!} />
        {!shoot && !error && <Loading what="the shoot" />}
        {running && <JobRunning job={running} />}
        {!running && shoot && shoot.keepers === 0 && (
          <Typography>
            There are no keepers yet. <TextLink to={`/shoots/${id}/cull`}>Cull first</TextLink>
          </Typography>
        )}
        {!running && shoot && shoot.keepers > 0 && settings && working && (
          <NewSet shootId={id!} keepers={shoot.keepers} spec={settings.outputSpec} volume={working} />
        )}
      </Section>
      <Delivered shootId={id!} />
    </Page>
  );
}

interface Fields {
  name: string;
  longSide: number;
  quality: number;
  sharpen: boolean;
  pattern: string;
  metadata: 'none' | 'rights' | 'all';
}

/** What is wrong in the fields, as it is typed; null: nothing. */
export function wrongIn(
  fields: Pick<Fields, 'name' | 'longSide' | 'quality' | 'pattern'>,
): Record<'name' | 'longSide' | 'quality' | 'pattern', string | null> {
  const between = (value: number | string, low: number, high: number, unit: string) => {
    const number = Number(value);
    return value !== '' && Number.isInteger(number) && number >= low && number <= high
      ? null
      : `From ${low} to ${high}${unit}`;
  };
  const pattern = parsePattern(fields.pattern);
  return {
    name: fields.name.trim() === '' ? 'The set needs a name: its folder and zip are called so' : null,
    longSide: between(fields.longSide, LONG_SIDE_RANGE[0], LONG_SIDE_RANGE[1], ' pixels'),
    quality: between(fields.quality, 1, 100, ''),
    pattern:
      fields.pattern.trim() === ''
        ? 'Put at least one field in, such as {number:3}'
        : pattern.ok
          ? null
          : describePatternProblem(fields.pattern, pattern.problem),
  };
}

function NewSet({
  shootId,
  keepers,
  spec,
  volume,
}: {
  shootId: string;
  keepers: number;
  spec: Api['OutputSpecDto'];
  volume: Api['VolumeDto'];
}) {
  const { register, watch, handleSubmit } = useForm<Fields>({
    defaultValues: {
      name: 'Web set',
      longSide: spec.longSide,
      quality: spec.quality,
      sharpen: spec.sharpen,
      pattern: spec.pattern,
      metadata: spec.metadata,
    },
  });
  const fields = watch();
  const wrong = wrongIn(fields);
  const right = Object.values(wrong).every((words) => words === null);
  const body = {
    name: fields.name,
    volumeId: volume.id,
    spec: {
      ...fields,
      longSide: Number(fields.longSide),
      quality: Number(fields.quality),
      name: fields.name || 'set',
    },
  };
  const { data: plan, error: refused } = useSWR(
    // What cannot be right is said in its field, and not asked for.
    right ? ['/plan', shootId, JSON.stringify(body)] : null,
    () => post(`/shoots/${shootId}/deliveries/plan`, body),
    { keepPreviousData: true },
  );
  const {
    run: start,
    busy: starting,
    error,
    again,
  } = useAction(() => post(`/shoots/${shootId}/deliveries`, body));
  return (
    <Box
      component="form"
      onSubmit={(e) => void handleSubmit(() => start())(e)}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: '420px minmax(0, 1fr)' },
        gap: { xs: 2, md: 5 },
      }}
    >
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: '1fr 1fr' }}>
        <TextField
          label="Name of the set"
          {...register('name')}
          error={wrong.name !== null}
          helperText={wrong.name}
          sx={{ gridColumn: 'span 2' }}
        />
        <TextField
          label="Long side, pixels"
          type="number"
          {...register('longSide')}
          error={wrong.longSide !== null}
          helperText={wrong.longSide}
          slotProps={{ htmlInput: { min: LONG_SIDE_RANGE[0], max: LONG_SIDE_RANGE[1] } }}
        />
        <TextField
          label="JPEG quality"
          type="number"
          {...register('quality')}
          error={wrong.quality !== null}
          helperText={wrong.quality}
          slotProps={{ htmlInput: { min: 1, max: 100 } }}
        />
        <TextField
          label="Names"
          {...register('pattern')}
          sx={{ gridColumn: 'span 2' }}
          slotProps={{ htmlInput: { spellCheck: false } }}
          error={wrong.pattern !== null}
          helperText={wrong.pattern ?? '{number:3} counts this set alone, from 1'}
        />
        <TextField
          select
          slotProps={{ select: { native: true } }}
          label="Metadata in the files"
          {...register('metadata')}
        >
          <option value="none">none</option>
          <option value="rights">creator and rights</option>
          <option value="all">these and the camera’s name</option>
        </TextField>
        <FormControlLabel
          control={<Checkbox color="default" {...register('sharpen')} checked={fields.sharpen} />}
          label="Sharpen for this size"
        />
      </Box>
      <Box>
        {plan && (
          <Typography sx={{ mb: 1 }}>
            {many(plan.frames, 'JPEG')} in sRGB, at most {fields.longSide} px long, will be made in{' '}
            <b>
              {volume.name} / {plan.folder}
            </b>
            , with a manifest, and a zip of all beside the folder.
          </Typography>
        )}
        {plan && plan.names.length > 0 && (
          <Box sx={{ ...CAPTION, color: INK.soft, mb: 2 }}>{plan.names.join(' · ')}</Box>
        )}
        <Problem error={refused} />
        <Problem error={error} again={again} />
        <Button type="submit" variant="contained" disabled={starting || Boolean(refused) || !right}>
          Make {many(keepers, 'JPEG')} and the zip
        </Button>
      </Box>
    </Box>
  );
}

function Delivered({ shootId }: { shootId: string }) {
  const { data: sets, error } = useGet(`/shoots/${shootId}/deliveries`);
  return (
    <Section title="Sets">
      <Problem error={error} />
      {!sets && !error && <Loading what="the sets" />}
      {sets?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>Nothing has been made yet.</Typography>
      )}
      {sets?.map(({ jobId, title, at, result }) => (
        <Box
          key={jobId}
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            py: 1,
            borderBottom: `1px solid ${GROUND.raised}`,
          }}
        >
          <Box sx={{ flex: 1 }}>
            <Box sx={{ fontWeight: 640 }}>{title.slice(title.lastIndexOf(' · ') + 3)}</Box>
            <Box sx={{ color: INK.soft }}>
              {momentOf(at)} · {many(result.files, 'JPEG')}, {bytes(result.bytes)}
              {result.failed > 0 && (
                <Box component="span" sx={{ color: STRIKE_TEXT }}>
                  {' '}
                  · {result.failed} could not be made
                </Box>
              )}
            </Box>
            <Box sx={{ ...CAPTION, color: INK.soft }}>
              {result.volume} / {result.zip.path}
            </Box>
          </Box>
          <Button variant="outlined" color="inherit" href={`/api/deliveries/${jobId}/zip`} download>
            Download zip, {bytes(result.zip.size)}
          </Button>
        </Box>
      ))}
    </Section>
  );
}
