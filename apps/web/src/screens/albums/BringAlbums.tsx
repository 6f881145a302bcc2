import { Box, Button, DialogActions, DialogContent, TextField, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { many } from '../../data/format';
import { post, type Api } from '../../data/http';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import { useSettled } from '../../parts/useSettled';
import { WideDialog } from '../../parts/WideDialog';
import { GROUND, INK } from '../../theme/theme';

/** Milliseconds after the last letter before it is asked what would come. */
const QUIET = 400;
/** Names that are listed of those that nothing has: enough to see what they are. */
const LISTED = 60;

/** Albums out of a file or a pasted list: shown what would come before it does. */
export function BringAlbums({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [name, setName] = useState('A list.txt');
  const settled = useSettled(text, QUIET);
  const [would, setWould] = useState<Api['BroughtAlbumsDto'] | Error | null>(null);
  useEffect(() => {
    setWould(null);
    if (settled.trim() === '') return;
    let wanted = true;
    post('/albums/texts', { text: settled, name, bring: false }).then(
      (found) => wanted && setWould(found),
      (error: Error) => wanted && setWould(error),
    );
    return () => {
      wanted = false;
    };
  }, [settled, name]);
  const { run, busy, error } = useAction(async () => {
    await post('/albums/texts', { text, name, bring: true });
    onClose();
  });
  const brings = would !== null && !(would instanceof Error) ? would : null;
  return (
    <WideDialog title="Bring albums in" width={760} onClose={onClose}>
      <DialogContent sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr) auto', gap: 1.5 }}>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 2, pt: 1 }}>
          <Button component="label" variant="outlined" color="inherit">
            Choose a file …
            <input
              type="file"
              hidden
              aria-label="A file of albums"
              accept=".json,.txt,.csv,.m3u"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (!file) return;
                setName(file.name);
                void file.text().then(setText);
              }}
            />
          </Button>
          <Box sx={{ color: INK.soft, flex: 1, minWidth: 220 }}>
            Names or whole paths of frames, one a line: they are one album. Or a table whose first line names
            its columns (file name, folder, album, stars, label, flag, keywords, caption), CSV. Or albums as
            Arkiv saves them, JSON.
          </Box>
        </Box>
        <TextField
          multiline
          fullWidth
          label="Names, a table, or JSON"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={'harbour_20290418_0118.dng\n2029/harbour/originals/harbour_20290418_0121.jpg'}
          slotProps={{
            inputLabel: { shrink: true },
            input: { sx: { height: '100%', alignItems: 'start', overflow: 'auto' } },
            htmlInput: { spellCheck: false },
          }}
        />
        <Box>
          <Typography role="status" sx={{ minHeight: 22 }}>
            {would instanceof Error
              ? would.message
              : brings &&
                `${many(brings.frames, 'frame')} in ${many(brings.albums, 'album')}.${
                  brings.marked > 0
                    ? ` ${many(brings.marked, 'frame')} with new marks, which can be undone.`
                    : ''
                } No picture is touched.`}
          </Typography>
          {brings && <Names title="No frame here has these names" names={brings.missing} />}
          {brings && (
            <Names title="Several frames have these names: write their folders too" names={brings.several} />
          )}
          {brings && <Names title="Not taken over" names={brings.left} />}
          <Problem error={error} />
        </Box>
      </DialogContent>
      <DialogActions sx={{ borderTop: `1px solid ${GROUND.line}` }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={!brings || busy || settled !== text} onClick={() => run()}>
          Bring them in
        </Button>
      </DialogActions>
    </WideDialog>
  );
}

function Names({ title, names }: { title: string; names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <Box component="details" sx={{ mt: 0.5 }}>
      <summary>
        {title}: {names.length}
      </summary>
      <Box sx={{ maxHeight: 120, overflow: 'auto', color: INK.soft, whiteSpace: 'pre-line' }}>
        {names.slice(0, LISTED).join('\n')}
        {names.length > LISTED && `\nand ${names.length - LISTED} others`}
      </Box>
    </Box>
  );
}
