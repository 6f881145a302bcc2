import { Box, Button, Dialog, DialogContent, DialogTitle, TextField } from '@mui/material';
import { shownName } from '@arkiv/core';
import { useState } from 'react';
import type { LoadedFrame } from '../../data/frames';
import { useGet } from '../../data/useGet';
import { Loading } from '../../parts/Loading';
import { Problem } from '../../parts/Problem';
import { CAPTION, GROUND, INK } from '../../theme/theme';

/** Everything the camera wrote into a frame's files, to be looked through by typing. */
export function CameraDialog({ frame, onClose }: { frame: LoadedFrame; onClose: () => void }) {
  const { data: files, error } = useGet(`/frames/${frame.id}/camera`);
  const [text, setText] = useState('');
  const sought = text.trim().toLowerCase();
  const found = files?.map((file) => ({
    ...file,
    groups: file.groups
      .map((group) => ({
        ...group,
        facts: group.facts.filter(({ name, value }) =>
          `${group.name} ${name} ${value}`.toLowerCase().includes(sought),
        ),
      }))
      .filter(({ facts }) => facts.length > 0),
  }));
  const none = found?.every(({ groups }) => groups.length === 0);
  return (
    <Dialog
      open
      onClose={onClose}
      maxWidth="md"
      fullWidth
      aria-labelledby="camera-title"
      transitionDuration={0}
    >
      <DialogTitle
        id="camera-title"
        component="div"
        sx={{ display: 'flex', alignItems: 'center', gap: 2, flexWrap: 'wrap' }}
      >
        <Box component="h2" sx={{ font: 'inherit', m: 0, flex: 1 }}>
          What the camera wrote
        </Box>
        <TextField
          size="small"
          label="Find a fact"
          value={text}
          autoFocus
          onChange={(event) => setText(event.target.value)}
          sx={{ width: 240 }}
        />
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogTitle>
      <DialogContent tabIndex={0} sx={{ height: '70vh' }}>
        <Problem error={error} />
        {!files && !error && <Loading what="the files" />}
        {none && (
          <Box sx={{ color: INK.soft }}>
            {sought === ''
              ? 'Nothing can be read in its files.'
              : `Nothing in its files says “${text.trim()}”.`}
          </Box>
        )}
        {found?.map((file) => (
          <Box key={file.path} component="section" aria-label={shownName(file.file)} sx={{ mb: 3 }}>
            {file.groups.length > 0 && (
              <Box sx={{ ...CAPTION, color: INK.soft, overflowWrap: 'anywhere', mb: 1 }}>
                {shownName(file.path)}
              </Box>
            )}
            {file.groups.map((group) => (
              <Box key={group.name} sx={{ mb: 1.5 }}>
                <Box component="h3" sx={{ m: 0, fontSize: 13, color: INK.faint, fontWeight: 600 }}>
                  {group.name}
                </Box>
                {group.facts.map(({ name, value }, i) => (
                  <Box
                    key={`${name} ${i}`}
                    sx={{
                      ...{ display: 'grid', gridTemplateColumns: 'minmax(120px, 240px) 1fr', columnGap: 2 },
                      ...{ py: 0.25, borderBottom: `1px solid ${GROUND.line}`, fontSize: 14 },
                    }}
                  >
                    <Box sx={{ color: INK.soft }}>{name}</Box>
                    <Box sx={{ overflowWrap: 'anywhere' }}>{shownName(value)}</Box>
                  </Box>
                ))}
              </Box>
            ))}
          </Box>
        ))}
      </DialogContent>
    </Dialog>
  );
}
