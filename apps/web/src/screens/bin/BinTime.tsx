import { Box, Button, ButtonBase } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useState } from 'react';
import { bytes, many, momentOf } from '../../data/format';
import { numberOf, placeholderOf, previewUrl } from '../../data/frames';
import { post, type Api } from '../../data/http';
import { jobEnd } from '../../data/jobEnd';
import { useGet } from '../../data/useGet';
import { Problem } from '../../parts/Problem';
import { TypedNumber } from '../../parts/TypedNumber';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';

type Time = Api['BinTimeDto'];

const SIZE = { width: 92, height: 62 };

/** One time that frames were binned or forgotten, with what can be done with it. */
export function BinTime({ time }: { time: Time }) {
  const { id, deed, shoot, at, frames, files, volumes, waiting, pictures } = time;
  const [asked, setAsked] = useState<'look' | 'delete' | null>(null);
  const { run, busy, error, again } = useAction(
    async (what: 'back' | 'delete', chosen?: string[] | number) => {
      const { jobId } =
        what === 'back'
          ? await post('/bin/back', { binId: id, ...(Array.isArray(chosen) && { frameIds: chosen }) })
          : await post('/bin/empty', { binIds: [id], typed: chosen as number });
      await jobEnd(jobId);
      setAsked(null);
    },
  );
  const drives = volumes.map((name) => `“${name}”`).join(' and ');
  return (
    <Box
      component="article"
      aria-label={`${many(frames, 'frame')} of ${shownName(shoot)}`}
      sx={{ py: 1, borderBottom: `1px solid ${GROUND.line}` }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Box
          sx={{ display: 'flex', gap: '2px', width: { xs: 92, md: 280 }, overflow: 'hidden', flexShrink: 0 }}
        >
          {pictures.slice(0, 3).map((picture) => (
            <Picture key={picture} picture={picture} alone={null} />
          ))}
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box sx={{ fontWeight: 560 }}>
            {many(frames, 'frame')} of {shownName(shoot)}
          </Box>
          <Box sx={{ ...CAPTION, color: INK.soft }}>
            {many(files, 'file')}, {bytes(time.bytes)} on {drives} · {momentOf(at)}
          </Box>
          {waiting > 0 && (
            <Box sx={{ color: INK.soft }}>
              {many(waiting, 'file')} on drives that are away {waiting === 1 ? 'follows' : 'follow'} when they
              return.
            </Box>
          )}
        </Box>
        <Button
          color="inherit"
          aria-expanded={asked === 'look'}
          onClick={() => setAsked(asked === 'look' ? null : 'look')}
        >
          {asked === 'look' ? 'Close' : 'Look'}
        </Button>
        <Button variant="outlined" color="inherit" disabled={busy} onClick={() => run('back')}>
          Bring back
        </Button>
        {deed === 'bin' && (
          <Button color="inherit" aria-expanded={asked === 'delete'} onClick={() => setAsked('delete')}>
            Delete …
          </Button>
        )}
      </Box>
      {asked === 'delete' && (
        <TypedNumber
          key={frames}
          frames={frames}
          said={`${many(frames, 'frame')} of ${shownName(shoot)} on ${drives}. They cannot be brought back.`}
          busy={busy}
          onDelete={(typed) => run('delete', typed)}
          onCancel={() => setAsked(null)}
        />
      )}
      {asked === 'look' && <Frames id={id} busy={busy} onBack={(chosen) => run('back', chosen)} />}
      <Problem error={error} again={again} />
    </Box>
  );
}

/** Its frames, to choose those that come back. */
function Frames({ id, busy, onBack }: { id: string; busy: boolean; onBack: (ids: string[]) => void }) {
  const { data: frames, error } = useGet(`/bin/${id}/frames`);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const toggle = (frame: string) =>
    setChosen((now) => {
      const next = new Set(now);
      if (!next.delete(frame)) next.add(frame);
      return next;
    });
  return (
    <Box sx={{ mt: 1.5 }}>
      <Box
        role="group"
        aria-label="Frames"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: '6px', fontSize: 12 }}
      >
        {frames?.map((frame) => {
          const on = chosen.has(frame.id);
          return (
            <ButtonBase
              key={frame.id}
              role="checkbox"
              aria-checked={on}
              aria-label={`Frame ${numberOf(frame.name)}`}
              onClick={() => toggle(frame.id)}
              sx={{ display: 'block', textAlign: 'left', outline: on ? `2px solid ${INK.full}` : 'none' }}
            >
              <Picture picture={frame.picture} alone={placeholderOf(frame)} />
              <Box sx={{ ...CAPTION, color: on ? INK.full : INK.soft, px: 0.5 }}>
                {on ? '✓ ' : ''}
                {numberOf(frame.name)}
              </Box>
            </ButtonBase>
          );
        })}
      </Box>
      <Box sx={{ mt: 1, display: 'flex', alignItems: 'center', gap: 2 }}>
        <Button
          variant="outlined"
          color="inherit"
          disabled={busy || chosen.size === 0}
          onClick={() => onBack([...chosen])}
        >
          {chosen.size === 0 ? 'Bring chosen frames back' : `Bring ${many(chosen.size, 'frame')} back`}
        </Button>
        <Box sx={{ color: INK.soft }}>Click the frames that are to come back.</Box>
      </Box>
      <Problem error={error} />
    </Box>
  );
}

/** A thumbnail as it was made while the frame was in the archive; `alone`: said where there is none. */
function Picture({ picture, alone }: { picture: string | null; alone: string | null }) {
  const [failed, setFailed] = useState(false);
  return (
    <Box
      sx={{
        ...SIZE,
        display: 'grid',
        placeItems: 'center',
        bgcolor: GROUND.deep,
        color: INK.faint,
        flexShrink: 0,
      }}
    >
      {picture && !failed ? (
        <img
          src={previewUrl(picture, 'thumb')}
          alt=""
          onError={() => setFailed(true)}
          style={{ width: '100%', height: '100%', objectFit: 'contain' }}
        />
      ) : (
        <Box sx={CAPTION}>{alone ?? 'no picture'}</Box>
      )}
    </Box>
  );
}
