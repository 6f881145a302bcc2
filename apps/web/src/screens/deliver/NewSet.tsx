import { Box, Button, TextField, Typography } from '@mui/material';
import { DEFAULT_OUTPUT_SPEC, specWords, type OutputSpec } from '@arkiv/core';
import { useState } from 'react';
import useSWR from 'swr';
import { bytes, many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { useOutputSpecs } from '../../data/outputSpecs';
import { KeeperThumbs } from '../../parts/KeeperThumbs';
import { Problem } from '../../parts/Problem';
import { SpecDialog } from '../../parts/SpecDialog';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';
import { useSettled } from '../../parts/useSettled';
import { CAPTION, INK } from '../../theme/theme';
import { AlongPart, NOTHING_ALONG, type Along } from './AlongPart';
import { useChoices } from './gallery/useChoices';
import { SampleDialog } from './SampleDialog';
import { WhichKeepers } from './WhichKeepers';
import { useWhichKeepers } from './useWhichKeepers';

/** Milliseconds of quiet before a name that is typed is asked about. */
const TYPING = 400;

/** Which specs of the studio a set is made by: those that are chosen and still there, or the first one. */
export function chosenOf(specs: readonly OutputSpec[], names: readonly string[]): OutputSpec[] {
  const chosen = specs.filter(({ name }) => names.includes(name));
  return chosen.length > 0 ? chosen : specs.slice(0, 1);
}

/** How the set is called, by which specs it is made, and what that makes, before it is made. */
export function NewSet({
  shootId,
  keepers,
  volume,
}: {
  shootId: string;
  keepers: number;
  volume: Api['VolumeDto'];
}) {
  const specs = useOutputSpecs();
  const [name, setName] = useState('Web set');
  const [names, setNames] = useKeptState<readonly string[]>('deliver.specs', []);
  const [open, setOpen] = useState<{ spec: OutputSpec; before: string | null } | null>(null);
  const [looking, setLooking] = useState(false);
  const choices = useChoices(shootId);
  const { which, own, choose, line: wanted } = useWhichKeepers();
  const chosen = chosenOf(specs, names);
  const settled = useSettled(name, TYPING);
  const line = useSettled(wanted, TYPING);
  const [along, setAlong] = useKeptState<Along>('deliver.along', NOTHING_ALONG);
  const folder = useSettled(along.folder.trim(), TYPING);
  const body = {
    ...{ name: settled.trim(), volumeId: volume.id, specs: chosen, line },
    ...{ sheet: along.sheet, bag: along.bag, ...(along.raws && folder !== '' && { raws: folder }) },
  };
  const empty = name.trim() === '';
  const { data: known, error: refused } = useSWR(
    // What cannot be right is said in its field, and not asked for.
    body.name === '' ? null : ['/plan', shootId, JSON.stringify(body)],
    () => post(`/shoots/${shootId}/deliveries/plan`, body),
    // A set that was made since is there, however soon after it is asked again.
    { keepPreviousData: true, dedupingInterval: 0 },
  );
  // What was planned before is not what is refused now.
  const plan = refused ? undefined : known;
  const samples = useSamples(shootId, volume.id, chosen, line);
  const {
    run: start,
    busy,
    error,
    again,
  } = useAction(() => post(`/shoots/${shootId}/deliveries`, { ...body, name: name.trim() }));
  const toggle = (spec: OutputSpec) =>
    setNames(() => {
      const now = chosen.map((one) => one.name);
      return now.includes(spec.name) ? now.filter((one) => one !== spec.name) : [...now, spec.name];
    });
  const one = chosen.length === 1 ? chosen[0]! : null;
  return (
    <>
      <KeeperThumbs shootId={shootId} some={plan} />
      <Box
        sx={{
          ...{ display: 'grid', gap: { xs: 2, md: 5 } },
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 5fr) minmax(0, 4fr)' },
        }}
      >
        <Box>
          <TextField
            label="Name of the set"
            value={name}
            fullWidth
            error={empty}
            helperText={empty ? 'The set needs a name: its folder and zip are called so' : undefined}
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <WhichKeepers which={which} own={own} onChange={choose} choices={choices} />
          <Box role="group" aria-label="How its files are made" sx={{ mt: 1.5 }}>
            {specs.map((spec) => (
              <Box key={spec.name} sx={{ display: 'flex', alignItems: 'start', gap: 1, py: 0.75 }}>
                <label style={{ display: 'flex', alignItems: 'start', gap: 10, flex: 1, minWidth: 0 }}>
                  <input
                    type="checkbox"
                    style={{ accentColor: INK.full, marginTop: 4 }}
                    checked={chosen.includes(spec)}
                    disabled={one === spec}
                    onChange={() => toggle(spec)}
                  />
                  <span>
                    <span style={{ fontWeight: 640 }}>{spec.name}</span>
                    <Box component="span" sx={{ display: 'block', color: INK.soft }}>
                      {specWords(spec)}
                    </Box>
                  </span>
                </label>
                <Button
                  size="small"
                  color="inherit"
                  aria-label={`Change “${spec.name}”`}
                  onClick={() => setOpen({ spec, before: spec.name })}
                >
                  Change
                </Button>
              </Box>
            ))}
            <Button
              size="small"
              color="inherit"
              onClick={() => setOpen({ spec: { ...DEFAULT_OUTPUT_SPEC, name: '' }, before: null })}
            >
              Another spec …
            </Button>
          </Box>
          <AlongPart along={along} onChange={(change) => setAlong((now) => ({ ...now, ...change }))} />
        </Box>
        <Box>
          {plan && !plan.exists && plan.files === 0 && (
            <Typography sx={{ mb: 1 }}>No keeper is meant by this: there is nothing to make.</Typography>
          )}
          {plan && !plan.exists && plan.files > 0 && (
            <Typography sx={{ mb: 1 }}>
              {many(plan.files, 'file')} of {many(plan.frames, 'keeper')}
              {samples.bytes !== null && `, about ${bytes(samples.bytes * plan.frames + plan.rawBytes)}`},
              will be made in{' '}
              <b>
                {volume.name} / {plan.folder}
              </b>
              {chosen.length > 1 && ', a folder for each spec'}
              {plan.raws > 0 &&
                `, with ${many(plan.raws, 'raw')} and ${plan.raws === 1 ? 'its sidecar' : 'their sidecars'} in “${body.raws}”`}
              {body.sheet && ', with a proof sheet'}
              {body.bag ? ', as a bag with its manifests' : ', with a manifest'}, and a zip of all beside the
              folder. Nothing is moved or changed.
            </Typography>
          )}
          {plan && plan.unfinished > 0 && (
            <Typography sx={{ mb: 1 }}>
              {many(plan.unfinished, 'keeper')} cannot go as it is: no edit came back, and all there is of it
              is a raw file.
            </Typography>
          )}
          {plan && plan.withoutFinish > 0 && (
            <Typography sx={{ mb: 1 }}>
              {many(plan.withoutFinish, 'keeper is', 'keepers are')} finished here: what goes as it is goes
              without that, as its camera wrote it.
            </Typography>
          )}
          {plan && !plan.exists && plan.names.length > 0 && (
            <Box sx={{ ...CAPTION, color: INK.soft, mb: 2, overflowWrap: 'anywhere' }}>
              {plan.names.join(' · ')}
            </Box>
          )}
          {plan && along.raws && plan.files > 0 && plan.raws === 0 && (
            <Typography sx={{ mb: 1 }}>None of these keepers has a raw: none goes along.</Typography>
          )}
          {plan?.exists && (
            <Typography sx={{ mb: 1 }}>
              A set of this name lies in{' '}
              <b>
                {volume.name} / {plan.folder}
              </b>
              : bring it up to date below, or give this one another name.
            </Typography>
          )}
          <Problem error={refused} />
          <Problem error={error} again={again} />
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
            <Button
              variant="contained"
              disabled={busy || Boolean(refused) || empty || !plan || plan.files === 0 || plan.exists}
              onClick={() => start()}
            >
              Make {many(plan?.files ?? keepers, 'file')} and the zip
            </Button>
            <Button
              variant="outlined"
              color="inherit"
              disabled={chosen.every(({ format }) => format === 'asis')}
              onClick={() => setLooking(true)}
            >
              Look at one first
            </Button>
          </Box>
        </Box>
        {open && (
          <SpecDialog
            {...open}
            onKept={(kept) => {
              // A new one is what one wants; one that was chosen stays so under another name.
              setNames((now) =>
                open.before === null
                  ? [...chosen.map((spec) => spec.name), kept]
                  : now.map((other) => (other === open.before ? kept : other)),
              );
              setOpen(null);
            }}
            onClose={() => setOpen(null)}
          />
        )}
        {looking && (
          <SampleDialog
            shootId={shootId}
            volumeId={volume.id}
            specs={chosen}
            line={line}
            onClose={() => setLooking(false)}
          />
        )}
      </Box>
    </>
  );
}

/** What one keeper comes to by all specs together; null: not known yet, or some go as they are. */
function useSamples(
  shootId: string,
  volumeId: string,
  specs: readonly OutputSpec[],
  line: string,
): { bytes: number | null } {
  const made = specs.filter(({ format }) => format !== 'asis');
  const { data } = useSWR(
    made.length === specs.length ? ['/samples', shootId, line, JSON.stringify(made)] : null,
    async () => {
      let sum = 0;
      for (const spec of made) {
        const { sample } = await post(`/shoots/${shootId}/deliveries/sample`, {
          name: 'sample',
          volumeId,
          line,
          specs: [spec],
        });
        sum += sample?.bytes ?? 0;
      }
      return sum;
    },
    { revalidateOnFocus: false, revalidateIfStale: false },
  );
  return { bytes: data ?? null };
}
