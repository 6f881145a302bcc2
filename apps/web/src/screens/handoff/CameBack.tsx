import { Box, Button, ButtonBase, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { momentOf, many } from '../../data/format';
import { numberOf, previewUrl, type LoadedFrame } from '../../data/frames';
import { post, put, type Api } from '../../data/http';
import { isOpen, useJobs, useShoot, useVolumes } from '../../data/live';
import { useGet } from '../../data/useGet';
import { JobRunning } from '../../parts/JobRunning';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK, STRIKE_TEXT } from '../../theme/theme';
import { WhoseEdit } from './WhoseEdit';

type Return = Api['ReturnDto'];

/** What came back, as far as somebody has to say of what it is. */
export const isAsked = ({ state }: Return): boolean => state === 'asks' || state === 'unknown';

/** Edits listed before somebody asks for all. */
const FIRST = 8;

/** What came back from editing, of which frames it is, and where it is looked for. */
export function CameBack(props: {
  shootId: string;
  /** all frames of the shoot, in order of time */
  frames: readonly LoadedFrame[];
  keepers: readonly LoadedFrame[];
  /** which one is asked about; null: none */
  asked: string | null;
  onAsk: (assetId: string | null) => void;
}) {
  const { shootId, frames, keepers, asked, onAsk } = props;
  const { data: all, error, mutate } = useGet(`/shoots/${shootId}/returns`);
  const { data: jobs } = useJobs();
  const [whole, setWhole] = useState(false);
  const running = jobs?.find((j) => j.shootId === shootId && j.kind === 'return' && isOpen(j));
  const open = all?.filter(isAsked) ?? [];
  const one = all?.find(({ assetId }) => assetId === asked);
  const shown = whole ? all : all?.slice(0, FIRST);
  /** The next one that is open, or none. */
  const goOn = async (): Promise<void> => {
    const now = await mutate();
    onAsk(now?.find((other) => isAsked(other) && other.assetId !== asked)?.assetId ?? null);
  };
  return (
    <Section title="Came back">
      <Problem error={error} />
      {!all && !error && <Loading what="what came back" />}
      {running && <JobRunning job={running} />}
      <Heard shootId={shootId} />
      {open.length > 0 && (
        <Box sx={{ mb: 1.5 }}>
          <Button variant="contained" onClick={() => onAsk(open[0]!.assetId)}>
            {open.length === 1 ? 'Whose edit is it?' : `Whose are they? ${many(open.length, 'edit')}`}
          </Button>
          <Box component="span" sx={{ ...CAPTION, color: INK.soft, ml: 1.5 }}>
            W
          </Box>
        </Box>
      )}
      {shown?.map((its) => (
        <ReturnRow key={its.assetId} its={its} onAsk={() => onAsk(its.assetId)} />
      ))}
      {all && all.length > FIRST && !whole && (
        <Button size="small" color="inherit" onClick={() => setWhole(true)}>
          All {many(all.length, 'edit')}
        </Button>
      )}
      <Places shootId={shootId} none={all?.length === 0} />
      {one && (
        <WhoseEdit
          key={one.assetId}
          its={one}
          {...{ frames, keepers }}
          onDone={goOn}
          onClose={() => onAsk(null)}
        />
      )}
    </Section>
  );
}

/** What editors wrote into the copies: it is taken over by itself, and stands in the shoot's history. */
function Heard({ shootId }: { shootId: string }) {
  const { data } = useGet(`/shoots/${shootId}/handoffs/heard`);
  if (!data || (data.frames === 0 && data.problems.length === 0)) return null;
  return (
    <Box sx={{ mb: 1.5 }}>
      {data.at !== null && (
        <Typography sx={{ color: INK.soft }}>
          Editing wrote into the copies of {many(data.frames, 'frame')}, last {momentOf(data.at)}: stars,
          labels, keywords and words are taken over.{' '}
          <TextLink to={`/shoots/${shootId}/history?whose=others`}>History</TextLink>
        </Typography>
      )}
      {data.problems.map((problem) => (
        <Problem key={problem} error={new Error(problem)} />
      ))}
    </Box>
  );
}

/** One edit: its picture, of which frames it is, and what is unusual about it. */
function ReturnRow({ its, onAsk }: { its: Return; onAsk: () => void }) {
  const gone = its.state === 'over';
  return (
    <ButtonBase
      onClick={onAsk}
      disabled={gone}
      sx={{
        ...{ display: 'grid', gridTemplateColumns: '72px minmax(0, 1fr)', columnGap: 1.25, width: '100%' },
        ...{ textAlign: 'left', alignItems: 'center', py: 0.5, '&:hover': { bgcolor: GROUND.raised } },
      }}
    >
      <Box sx={{ width: 72, height: 48, display: 'grid', placeItems: 'center', bgcolor: GROUND.deep }}>
        {its.picture && (
          <img
            src={previewUrl(its.picture, 'thumb')}
            alt=""
            loading="lazy"
            style={{ maxWidth: 72, maxHeight: 48, display: 'block' }}
          />
        )}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Box title={its.name} sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {shortName(its)}
        </Box>
        <Box sx={{ ...CAPTION, color: isAsked(its) ? STRIKE_TEXT : INK.soft }}>
          {stateWords(its)} · {momentOf(its.at)}
        </Box>
      </Box>
    </ButtonBase>
  );
}

/** What a file is called beside its frames' numbers: their names begin alike, and what differs would be cut off. */
export const shortName = ({ name, originals, among }: Return): string =>
  [...originals, ...among].reduce((short, frame) => short.replaceAll(frame.name, numberOf(frame.name)), name);

/** Of which frames it is, as far as that is known. */
export function stateWords({ state, originals, second, among }: Return): string {
  if (state === 'asks')
    return among.length === 1
      ? `perhaps ${numberOf(among[0]!.name)}: look`
      : `one of ${among.length}, or several: look`;
  if (state === 'unknown') return 'nothing tells whose it is';
  if (state === 'aside') return 'of no frame of this shoot';
  const [first, ...others] = originals.map(({ name }) => numberOf(name));
  const of =
    others.length === 0
      ? `of ${first ?? 'a frame that is gone'}`
      : `of ${many(originals.length, 'frame')}, from ${first}`;
  if (state === 'over') return `${of} · saved over since`;
  return second ? `${of} · edited before: this one shows it now` : of;
}

/** Where edits are looked for, and one more folder for that. */
function Places({ shootId, none }: { shootId: string; none: boolean }) {
  const { data: shoot } = useShoot(shootId);
  const { data: volumes } = useVolumes();
  const { data, mutate } = useGet(`/shoots/${shootId}/returns/folders`);
  const [adding, setAdding] = useState(false);
  const [volumeId, setVolumeId] = useState('');
  const [path, setPath] = useState('');
  const folders = data?.folders ?? [];
  const keep = useAction(async (next: Api['ReturnFolderDto'][]) => {
    await put(`/shoots/${shootId}/returns/folders`, { folders: next });
    setAdding(false);
    setPath('');
    await mutate();
  });
  const look = useAction(() => post(`/shoots/${shootId}/returns/look`));
  const drive = volumeId || volumes?.[0]?.id || '';
  const nameOf = (id: string) => volumes?.find((volume) => volume.id === id)?.name ?? 'a drive';
  return (
    <Box sx={{ mt: 1, color: INK.soft }}>
      <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
        {none ? 'Nothing yet. Finished pictures' : 'Finished pictures'} that are saved into “
        {shoot?.edits ?? 'edits'}” of this shoot, on any of its drives, are found by themselves
        {folders.length > 0 && ', and in'}
        {folders.length === 0 && '.'}
      </Typography>
      {folders.map((folder) => (
        <Box key={`${folder.volumeId}/${folder.path}`} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere', color: INK.full }}>
            {nameOf(folder.volumeId)} / {folder.path}
          </Box>
          <Button
            size="small"
            color="inherit"
            aria-label={`Look no more in ${folder.path}`}
            onClick={() => keep.run(folders.filter((other) => other !== folder))}
          >
            Not any more
          </Button>
        </Box>
      ))}
      {adding ? (
        <Box
          component="form"
          sx={{ display: 'grid', gap: 1.25, mt: 1 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (path.trim()) keep.run([...folders, { volumeId: drive, path: path.trim() }]);
          }}
        >
          <TextField
            select
            label="Drive"
            value={drive}
            onChange={(event) => setVolumeId(event.target.value)}
            slotProps={{ select: { native: true } }}
          >
            {volumes?.map((volume) => (
              <option key={volume.id} value={volume.id}>
                {volume.name}
              </option>
            ))}
          </TextField>
          <TextField
            label="Folder on it"
            value={path}
            autoFocus
            onChange={(event) => setPath(event.target.value)}
            slotProps={{ htmlInput: { spellCheck: false } }}
          />
          <Box sx={{ display: 'flex', gap: 1 }}>
            <Button
              type="submit"
              size="small"
              variant="outlined"
              color="inherit"
              disabled={!path.trim() || keep.busy}
            >
              Look there too
            </Button>
            <Button size="small" color="inherit" onClick={() => setAdding(false)}>
              Cancel
            </Button>
          </Box>
        </Box>
      ) : (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
          <Button size="small" color="inherit" onClick={() => setAdding(true)}>
            Another folder …
          </Button>
          <Button size="small" color="inherit" disabled={look.busy} onClick={() => look.run()}>
            Look now
          </Button>
        </Box>
      )}
      <Problem error={keep.error ?? look.error} again={keep.error ? keep.again : look.again} />
    </Box>
  );
}
