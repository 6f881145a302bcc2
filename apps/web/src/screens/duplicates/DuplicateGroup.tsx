import { Box, Button, Radio } from '@mui/material';
import { useState } from 'react';
import { bytes, many } from '../../data/format';
import { placeholderOf, previewUrl } from '../../data/frames';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { usePiles } from '../../data/live';
import { LabelTab, Stars } from '../../parts/Marks';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';
import { goingBeside, stayingOf, type DuplicateFrame } from './staying';
import { usesOf } from './uses';

/** Frames of one content: where each is, what was done with it, and which one would stay. */
export function DuplicateGroup({
  group,
  onDone,
}: {
  group: Api['DuplicateDto'];
  onDone: (words: string) => void;
}) {
  const { frames } = group;
  const [chosen, setChosen] = useState<string | null>(null);
  const staying = frames.find(({ id }) => id === chosen) ?? stayingOf(frames);
  const going = goingBeside(frames, staying.id);
  const { run, busy, error, again } = useAction(async () => {
    const { jobIds } = await post('/duplicates/stays', {
      frameId: staying.id,
      going: going.map(({ id }) => id),
    });
    for (const jobId of jobIds) await jobEnd(jobId);
    onDone(`${many(going.length, 'frame is', 'frames are')} in the bin, ${staying.name} stays.`);
  });
  return (
    <Box
      component="article"
      aria-label={`${frames.length} frames like ${staying.name}`}
      sx={{
        ...{ display: 'grid', gridTemplateColumns: '168px minmax(0, 1fr)', gap: 2, p: 1.5, mb: 1.5 },
        ...{ bgcolor: GROUND.raised, border: `1px solid ${GROUND.line}` },
      }}
    >
      <Box sx={{ display: 'grid', placeItems: 'center', minHeight: 112, bgcolor: GROUND.deep }}>
        {staying.picture ? (
          <img
            src={previewUrl(staying.picture, 'thumb')}
            alt=""
            style={{ maxWidth: 168, maxHeight: 126, display: 'block' }}
          />
        ) : (
          placeholderOf(staying)
        )}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Box role="radiogroup" aria-label="Which one stays">
          {frames.map((frame) => (
            <FrameRow
              key={frame.id}
              frame={frame}
              group={group.id}
              stays={frame.id === staying.id}
              goes={going.includes(frame)}
              onStay={() => setChosen(frame.id)}
            />
          ))}
        </Box>
        <Problem error={error} again={again} />
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
          {going.length > 0 ? (
            <Button size="small" variant="outlined" color="inherit" disabled={busy} onClick={() => run()}>
              {busy
                ? 'Under way …'
                : `Put ${going.length === 1 ? 'the other' : `the ${going.length} others`} into the bin`}
            </Button>
          ) : (
            <Box sx={{ color: INK.soft }}>
              Each has a file, or more copies of one, that the chosen one has not: all stay.
            </Box>
          )}
          {going.length > 0 && (
            <Box sx={{ ...CAPTION, color: INK.soft }}>
              {bytes(going.reduce((sum, frame) => sum + frame.bytes, 0))} on all drives
              {going.some(({ piles }) => piles.length > 0) && ' · the one that stays comes into their piles'}
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

function FrameRow({
  frame,
  group,
  stays,
  goes,
  onStay,
}: {
  frame: DuplicateFrame;
  group: string;
  stays: boolean;
  goes: boolean;
  onStay: () => void;
}) {
  const { data: piles = [] } = usePiles();
  const said = usesOf(frame, piles);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr) auto', alignItems: 'center' }}>
      <Radio
        size="small"
        color="default"
        name={`stays-${group}`}
        checked={stays}
        onChange={onStay}
        slotProps={{ input: { 'aria-label': `${frame.name} in ${frame.shoot} stays` } }}
      />
      <Box sx={{ minWidth: 0 }}>
        <TextLink to={`/shoots/${frame.shootId}/cull?frame=${frame.id}`}>{frame.name}</TextLink>{' '}
        <Box component="span" sx={{ color: INK.soft }}>
          {frame.shoot}, {frame.folder}
        </Box>
        <Box sx={{ ...CAPTION, color: INK.soft }}>{said.join(' · ')}</Box>
      </Box>
      <Box sx={{ ...CAPTION, display: 'flex', alignItems: 'center', gap: 1, color: INK.soft }}>
        {frame.verdict !== 'undecided' && frame.verdict}
        <Stars stars={frame.stars} />
        {frame.label && <LabelTab label={frame.label} />}
        <Box sx={{ width: 96, textAlign: 'right', color: stays ? INK.full : INK.soft }}>
          {stays ? 'stays' : goes ? 'would go' : 'stays: holds more'}
        </Box>
      </Box>
    </Box>
  );
}
