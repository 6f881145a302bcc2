import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { bytes, count, many, momentOf } from '../../data/format';
import { post, type Api } from '../../data/http';
import { isOpen, useJobs, useShoot, useVolumes } from '../../data/live';
import { useGet } from '../../data/useGet';
import { JobRunning } from '../../parts/JobRunning';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { useSettled } from '../../parts/useSettled';
import { CAPTION, INK, STRIKE_TEXT } from '../../theme/theme';

/** The keepers' originals with their sidecars, copied to a selects folder: said before, proven after. */
export function CopyPart({ shootId, chosen: frames }: { shootId: string; chosen: readonly string[] }) {
  const { data: volumes } = useVolumes();
  const { data: shoot } = useShoot(shootId);
  const { data: jobs } = useJobs();
  const { data: past } = useGet(`/shoots/${shootId}/handoffs`);
  const [chosen, setChosen] = useState('');
  const [folder, setFolder] = useState('');
  const [person, setPerson] = useState('');
  const online = volumes?.filter((v) => v.online) ?? [];
  const volumeId = chosen || (online.find((v) => v.role === 'edit') ?? online[0])?.id || '';
  const running = jobs?.find((j) => j.shootId === shootId && j.kind === 'handoff' && isOpen(j));
  const place = { volumeId, ...(folder.trim() === '' ? {} : { folder: folder.trim() }) };
  // A plan is asked for when the hand rests.
  const settled = useSettled(place.folder ?? '', TYPING);
  return (
    <Section title="Copies for editing">
      <Box sx={{ display: 'grid', gap: 1.5, mb: 2 }}>
        <TextField
          select
          slotProps={{ select: { native: true } }}
          label="Copy to"
          value={volumeId}
          onChange={(e) => setChosen(e.target.value)}
          fullWidth
        >
          {volumes?.map((v) => (
            <option key={v.id} value={v.id} disabled={!v.online}>
              {v.name} {v.online ? `· ${bytes(v.free ?? 0)} free` : '· not connected'}
            </option>
          ))}
        </TextField>
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          <TextField
            label="Folder of the shoot"
            value={folder}
            placeholder={shoot?.selects}
            onChange={(e) => setFolder(e.target.value)}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 80, spellCheck: false } }}
          />
          <TextField
            label="To whom"
            value={person}
            placeholder="nobody named"
            onChange={(e) => setPerson(e.target.value)}
            slotProps={{
              inputLabel: { shrink: true },
              htmlInput: { maxLength: 120, list: 'handoff-persons' },
            }}
          />
          <datalist id="handoff-persons">
            {[...new Set(past?.map(({ result }) => result.person))].filter(Boolean).map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </Box>
      </Box>
      {volumeId && !running && settled === (place.folder ?? '') && (
        <Plan key={`${volumeId} ${settled}`} {...{ shootId, place, person, frames }} />
      )}
      {running && <JobRunning job={running} />}
    </Section>
  );
}

/** Milliseconds of quiet before a folder that is typed is asked about. */
const TYPING = 400;

interface Place {
  volumeId: string;
  folder?: string;
}

const asked = ({ volumeId, folder }: Place): string =>
  `volumeId=${volumeId}${folder === undefined ? '' : `&folder=${encodeURIComponent(folder)}`}`;

/** What went to editing so far. */
export function PastPart({ shootId }: { shootId: string }) {
  const { data: past, error } = useGet(`/shoots/${shootId}/handoffs`);
  return (
    <Section title="Handed off">
      <Problem error={error} />
      {!past && !error && <Loading what="what was handed off" />}
      {past?.length === 0 && <Typography sx={{ color: 'text.secondary' }}>Nothing yet.</Typography>}
      {past?.map(({ jobId, at, result }) => (
        <Box key={jobId} sx={{ py: 0.75 }}>
          <Box>
            {momentOf(at)}
            {result.person && ` · to ${result.person}`} · {many(result.frames, 'keeper')},{' '}
            {many(result.files, 'file')}, {bytes(result.bytes)} to {result.volume}:{' '}
            {result.failed === 0 ? (
              `all ${result.verified} verified`
            ) : (
              <Box component="span" sx={{ color: STRIKE_TEXT }}>
                {result.verified} verified, {result.failed} failed
              </Box>
            )}
          </Box>
          <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
            {result.folders.join(' · ')} · {thereWords(result)}
          </Box>
          {result.failed > 0 && <Failures jobId={jobId} />}
        </Box>
      ))}
    </Section>
  );
}

type HandoffPlan = Api['HandoffPlanDto'];
type Part = 'all' | 'new';

function Plan(props: { shootId: string; place: Place; person: string; frames: readonly string[] }) {
  const { shootId, place, person, frames } = props;
  const { data: plan, error: failure } = useGet(`/shoots/${shootId}/handoffs/plan?${asked(place)}`);
  const [chosen, setChosen] = useState<Part | null>(null);
  const {
    run: start,
    busy: starting,
    error,
    again,
  } = useAction((part: Part) => post(`/shoots/${shootId}/handoffs`, { ...place, part, person }));
  if (!plan) return failure ? <Problem error={failure} /> : <Loading what="the plan" />;
  if (plan.frames === 0)
    return (
      <>
        <Typography sx={{ color: INK.soft }}>There is no keeper to copy.</Typography>
        <Gone shootId={shootId} place={place} plan={plan} />
      </>
    );
  const begun = plan.fresh.files < plan.files;
  const part = begun ? (chosen ?? 'new') : 'all';
  const its = part === 'all' ? plan : plan.fresh;
  const isOnlySaid = part === 'new' && its.files > 0 && plan.words === its.files;
  return (
    <>
      {begun && (
        <Box role="radiogroup" aria-label="What is copied" sx={{ display: 'grid', gap: 0.75, mb: 1.5 }}>
          {(['new', 'all'] as const).map((one) => (
            <label key={one} style={{ display: 'flex', gap: 8, alignItems: 'baseline' }}>
              <input
                type="radio"
                name="handoff-part"
                style={{ accentColor: INK.full }}
                checked={part === one}
                onChange={() => setChosen(one)}
              />
              <span>
                {one === 'new'
                  ? `What is new or changed: ${freshWords(plan)}`
                  : `All of it: ${sizeWords(plan)}`}
              </span>
            </label>
          ))}
        </Box>
      )}
      {begun && part === 'new' && plan.fresh.files === 0 ? (
        <Typography sx={{ mb: 2, color: INK.soft }}>Every keeper is there, as it is by now.</Typography>
      ) : (
        <>
          <Typography sx={{ mb: 2 }}>
            {isOnlySaid
              ? `What the copies of ${many(its.frames, 'keeper')} say is brought up to date in `
              : `${many(its.frames, 'keeper')}, ${sizeWords(its)} will be copied to `}
            <b>
              {plan.volume} / {plan.folders.join(', ')}
            </b>
            {isOnlySaid
              ? '. Their pictures stay as they are, and so does what editing wrote.'
              : '. Nothing is moved. Files that lie there already are left as they are; sidecars are brought up to date, and what editing wrote into them stays.'}
          </Typography>
          <Button variant="contained" disabled={starting || !plan.online} onClick={() => start(part)}>
            {isOnlySaid
              ? `Update ${saidParts(plan).join(' and ')}`
              : `Copy ${many(its.frames, 'keeper')} to ${plan.volume}`}
          </Button>
        </>
      )}
      <Problem error={error} again={again} />
      <Gone shootId={shootId} place={place} plan={plan} />
      {begun && plan.online && <OpenCopies volumeId={place.volumeId} frames={frames} />}
    </>
  );
}

const sizeWords = ({ files, bytes: size }: { files: number; bytes: number }): string =>
  `${many(files, 'file')}, ${bytes(size)}`;

/** Files there of which only what they say is another by now: JPEGs say it inside. */
const saidParts = ({ sidecars, words }: Pick<HandoffPlan, 'sidecars' | 'words'>): string[] => [
  ...(sidecars > 0 ? [many(sidecars, 'sidecar')] : []),
  ...(words > sidecars ? [many(words - sidecars, 'JPEG')] : []),
];

export function freshWords(plan: Pick<HandoffPlan, 'fresh' | 'sidecars' | 'words'>): string {
  const { fresh, words } = plan;
  if (fresh.files === 0) return 'nothing';
  const copied = fresh.files - words;
  return [
    ...(copied > 0 ? [sizeWords({ ...fresh, files: copied })] : []),
    ...(words > 0 ? [`words in ${saidParts(plan).join(' and ')}`] : []),
  ].join(' · ');
}

/** Named at most: more nobody reads. */
const NAMED = 8;

/** What lies there and would not go there any more: it can be taken back, or stays. */
function Gone({ shootId, place, plan }: { shootId: string; place: Place; plan: HandoffPlan }) {
  const { run, busy, error, again } = useAction(() => post(`/shoots/${shootId}/handoffs/take-back`, place));
  const { gone } = plan;
  if (gone.length === 0) return null;
  const named = (why: HandoffPlan['gone'][number]['why']): string => {
    const names = gone.flatMap((one) => (one.why === why ? one.name : []));
    return names.length <= NAMED
      ? names.join(', ')
      : `${names.slice(0, NAMED).join(', ')} and ${count(names.length - NAMED)} more`;
  };
  const [out, renamed] = [named('no keeper'), named('another name')];
  return (
    <Box sx={{ mt: 2 }}>
      <Typography sx={{ mb: 1, overflowWrap: 'anywhere' }}>
        {out && `On ${plan.volume} lies what is no keeper any more: ${out}. `}
        {renamed && `Under another name by now lies there: ${renamed}. `}
        Left as it is, editing goes on with it.
      </Typography>
      <Button variant="outlined" color="inherit" disabled={busy || !plan.online} onClick={() => run()}>
        Take {many(gone.length, 'frame')} back, into the drive’s bin
      </Button>
      <Problem error={error} again={again} />
    </Box>
  );
}

/** What of a hand-off is there still: taken back, or brought anew by a later one, it is not. */
const thereWords = ({ there, frames }: Api['HandoffResultDto']): string =>
  there === 0
    ? 'nothing of it there as it was brought'
    : there < frames
      ? `${count(there)} of it there still`
      : 'all there';

/** The copies that are meant, in a program of the studio's own list, on this computer alone. */
function OpenCopies({ volumeId, frames }: { volumeId: string; frames: readonly string[] }) {
  const { data } = useGet('/opening/programs');
  const { run, busy, error, again } = useAction((program: string) =>
    post('/opening/copies', { volumeId, frameIds: [...frames], program }),
  );
  const programs = data?.programs ?? [];
  if (programs.length === 0 || frames.length === 0) return null;
  return (
    <Box sx={{ mt: 2, display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
      <Box sx={{ color: INK.soft }}>
        {frames.length === 1
          ? 'Open the copy of this frame in'
          : `Open the copies of ${many(frames.length, 'frame')} in`}
      </Box>
      {programs.map(({ name }) => (
        <Button key={name} variant="outlined" color="inherit" disabled={busy} onClick={() => run(name)}>
          {name}
        </Button>
      ))}
      <Problem error={error} again={again} />
    </Box>
  );
}

function Failures({ jobId }: { jobId: string }) {
  const { data } = useGet(`/jobs/${jobId}`);
  const { run: retry, error, again } = useAction(() => post(`/jobs/${jobId}/retry`));
  return (
    <>
      {data?.failures.map((f) => (
        <Problem key={f.file} error={new Error(f.reason)} />
      ))}
      <Button size="small" variant="outlined" color="inherit" onClick={() => retry()}>
        Try these again
      </Button>
      <Problem error={error} again={again} />
    </>
  );
}
