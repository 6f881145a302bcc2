import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useEffect, useState } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { many } from '../../data/format';
import { post } from '../../data/http';
import { useGet } from '../../data/useGet';
import { CopyText } from '../../parts/CopyText';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { CAPTION, GROUND, INK } from '../../theme/theme';

interface Props {
  /** those that would be opened; the first of them is shown */
  frames: () => Promise<readonly LoadedFrame[]>;
  onClose: () => void;
}

/** Where the files of a frame lie on every drive, and opening them on this computer. */
export function WhereDialog({ frames: ask, onClose }: Props) {
  const [frames, setFrames] = useState<readonly LoadedFrame[] | null>(null);
  const { run: load, error: asked } = useAction(async () => setFrames(await ask()));
  useEffect(() => load(), [load]);
  const frame = frames?.[0];
  const { data, error } = useGet(frame ? `/opening/frames/${frame.id}` : null);
  const { data: list } = useGet(data?.here ? '/opening/programs' : null);
  const { run, busy, error: trouble, again } = useAction((work: () => Promise<unknown>) => work());
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="md"
      aria-labelledby="where-title"
      slotProps={{ paper: { sx: { borderRadius: 0 } } }}
    >
      <DialogTitle id="where-title">
        {frame ? `Where ${shownName(frame.name)} lies` : 'Where its files lie'}
      </DialogTitle>
      <DialogContent tabIndex={0}>
        <Problem error={asked ?? error} />
        {!data && !error && !asked && <Loading what="its files" />}
        {data?.files.map((file) => (
          <Box
            key={`${file.assetId} ${file.volumeId}`}
            sx={{
              ...{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 1, py: 0.75 },
              borderBottom: `1px solid ${GROUND.line}`,
            }}
          >
            <Box sx={{ flex: '1 1 320px', minWidth: 0 }}>
              <Box sx={{ fontWeight: 560 }}>
                {file.volume}
                {!file.online && ' · not connected'}
              </Box>
              <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere' }}>
                {shownName(file.whole ?? file.path)}
              </Box>
            </Box>
            <CopyText text={file.whole ?? file.path} />
            {data.here && file.online && (
              <Button
                size="small"
                color="inherit"
                disabled={busy}
                onClick={() =>
                  run(() => post('/opening/folder', { assetId: file.assetId, volumeId: file.volumeId }))
                }
              >
                Open its folder
              </Button>
            )}
          </Box>
        ))}
        {data?.copyOf && (
          <Typography sx={{ color: INK.soft, mt: 2 }}>
            A copy of{' '}
            <TextLink to={`/shoots/${data.copyOf.shootId}/cull?frame=${data.copyOf.id}`}>
              {shownName(data.copyOf.name)}
            </TextLink>
            , made in the archive: each has its own marks.
          </Typography>
        )}
        {data && !data.here && (
          <Typography sx={{ color: INK.soft, mt: 2 }}>
            Folders and other programs are opened on the computer on which Arkiv runs.
          </Typography>
        )}
        {data?.here && list && (
          <Box sx={{ mt: 2 }}>
            {list.programs.length === 0 ? (
              <Typography sx={{ color: INK.soft }}>
                Other programs to open frames in are named in <TextLink to="/studio#machine">Studio</TextLink>
                .
              </Typography>
            ) : (
              <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center' }}>
                <Box sx={{ color: INK.soft }}>Open {many(frames!.length, 'frame')} in</Box>
                {list.programs.map(({ name }) => (
                  <Button
                    key={name}
                    variant="outlined"
                    color="inherit"
                    disabled={busy}
                    onClick={() =>
                      run(() =>
                        post('/opening/frames', { frameIds: frames!.map(({ id }) => id), program: name }),
                      )
                    }
                  >
                    {name}
                  </Button>
                ))}
                <Box sx={{ ...CAPTION, color: INK.faint }}>
                  They get the originals themselves, not copies: hand-off makes copies.
                </Box>
              </Box>
            )}
          </Box>
        )}
        <Problem error={trouble} again={again} />
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
