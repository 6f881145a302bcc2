import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from '@mui/material';
import { LONGEST_NAME } from '@arkiv/core';
import { useState } from 'react';
import type { Album } from '../data/albums';
import { many } from '../data/format';
import { patch, post } from '../data/http';
import { INK } from '../theme/theme';
import { Problem } from './Problem';
import { useAction } from './useAction';
import { useRuleFinds } from './useRuleFinds';

interface Props {
  /** the one that is changed; missing: a new one is made */
  album?: Album;
  /** id of the album that a new one is to stand in */
  parent?: string;
  /** a new one is filled by this line from the start */
  rule?: string;
  onClose: () => void;
  onMade?: (album: Album) => void;
}

/** Name of an album, and the line that fills it where it is a rule album: what it finds is said while it is typed. */
export function AlbumDialog({ album, parent, rule: first, onClose, onMade }: Props) {
  const [name, setName] = useState(album?.name ?? '');
  const [byRule, setByRule] = useState(album ? album.rule !== null : first !== undefined);
  const [rule, setRule] = useState(album?.rule ?? first ?? '');
  const finds = useRuleFinds(byRule ? rule : '');
  const { run, busy, error } = useAction(async () => {
    const said = byRule ? { rule: rule.trim() } : {};
    if (album) await patch(`/albums/${album.id}`, { name: name.trim(), ...said });
    else onMade?.(await post('/albums', { name: name.trim(), ...(parent ? { parent } : {}), ...said }));
    onClose();
  });
  const ready = name.trim() !== '' && (!byRule || rule.trim() !== '');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" slotProps={{ paper: { sx: { borderRadius: 0 } } }}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready && !busy) run();
        }}
      >
        <DialogTitle>{album ? 'Change the album' : 'A new album'}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <TextField
            label="Name"
            value={name}
            autoFocus
            fullWidth
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: LONGEST_NAME }, inputLabel: { shrink: true } }}
            sx={{ mt: 1 }}
          />
          {!album && (
            <Box role="radiogroup" aria-label="How it is filled" sx={{ display: 'grid', gap: 0.5 }}>
              {(
                [
                  [false, 'By hand: frames are put into it'],
                  [true, 'By a rule: it holds what a line finds, now and later'],
                ] as const
              ).map(([is, words]) => (
                <label key={words} style={{ display: 'flex', gap: 8, alignItems: 'center' }}>
                  <input
                    type="radio"
                    name="filled"
                    style={{ accentColor: INK.full }}
                    checked={byRule === is}
                    onChange={() => setByRule(is)}
                  />
                  {words}
                </label>
              ))}
            </Box>
          )}
          {byRule && (
            <TextField
              label="Rule: words and facts, as in Find"
              value={rule}
              fullWidth
              placeholder="heron ≥4★ 2029"
              onChange={(event) => setRule(event.target.value)}
              error={finds?.problem != null}
              helperText={finds?.problem ?? (finds ? `${many(finds.count, 'frame')} now` : ' ')}
              slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
            />
          )}
          <Typography sx={{ color: INK.soft }}>
            An album holds no files: frames stay in their shoots, and one may stand in many albums.
          </Typography>
          <Problem error={error} />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!ready || busy}>
            {album ? 'Change it' : 'Make it'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
