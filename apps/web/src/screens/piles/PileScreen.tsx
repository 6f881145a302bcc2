import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { many, mediumDay } from '../../data/format';
import { del, patch, post, type Api } from '../../data/http';
import { usePile, usePiles } from '../../data/live';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { PassOver } from '../../parts/PassOver';
import { PlacedSheet } from '../../parts/PlacedSheet';
import { Problem } from '../../parts/Problem';
import { useScreenTitle } from '../../parts/screenTitle';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { INK } from '../../theme/theme';

type Pile = Api['PiledFramesDto'];

const heading = ({ shoot, time }: Api['PlacedFrameDto']): string =>
  `${shoot} · ${time ? mediumDay(time.slice(0, 10)) : 'no capture time'}`;

/** A pile over all shoots: its frames, shoot by shoot, and what can be done with it as a whole. */
export function PileScreen() {
  const { id } = useParams();
  const { data: pile, error } = usePile(id!);
  useScreenTitle(pile ? `Pile · ${pile.name}` : 'Pile');
  if (!pile)
    return (
      <Page title="Pile">
        <Problem error={error} />
        {!error && <Loading what="the pile" />}
      </Page>
    );
  return (
    <Box
      component="main"
      sx={{ display: 'grid', gridTemplateRows: 'auto minmax(0, 1fr)', minHeight: 0, pl: 3 }}
    >
      <Box sx={{ py: 2, pr: 3 }}>
        <Others id={pile.id} />
        <Head key={pile.id} pile={pile} />
      </Box>
      <Box sx={{ minHeight: 0 }}>
        {pile.shown.length > 0 ? (
          <PlacedSheet label={`Frames of the pile ${pile.name}`} frames={pile.shown} heading={heading} />
        ) : (
          <Typography sx={{ color: 'text.secondary' }}>
            Nothing is in it. In Cull, V puts the frame or the selection in, from any shoot.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

/** All piles, to go from one to the other. */
function Others({ id }: { id: string }) {
  const { data: piles = [] } = usePiles();
  if (piles.length < 2) return null;
  return (
    <Box component="nav" aria-label="Piles" sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, mb: 1 }}>
      {piles.map((pile) => (
        <Box key={pile.id} component="span" sx={{ color: pile.id === id ? INK.full : INK.soft }}>
          {pile.id === id ? (
            <span aria-current="page">{pile.name}</span>
          ) : (
            <TextLink to={`/piles/${pile.id}`}>{pile.name}</TextLink>
          )}{' '}
          {pile.frames}
        </Box>
      ))}
    </Box>
  );
}

function Head({ pile }: { pile: Pile }) {
  const { id, frames, shown } = pile;
  const navigate = useNavigate();
  const [asked, setAsked] = useState<'rename' | 'empty' | 'remove' | null>(null);
  const [name, setName] = useState(pile.name);
  const shoots = new Set(shown.map(({ shootId }) => shootId)).size;
  const { run, busy, error } = useAction(async (what: 'album' | 'rename' | 'empty' | 'remove') => {
    if (what === 'album') {
      const album = await post('/albums', { name: pile.name, pile: id });
      return navigate(`/albums/${album.id}`);
    }
    if (what === 'rename') await patch(`/piles/${id}`, { name: name.trim() });
    else if (what === 'empty') await del(`/piles/${id}/frames`);
    else {
      await del(`/piles/${id}`);
      void navigate('/');
    }
    setAsked(null);
  });
  const said = `Takes ${many(frames, 'frame')} out of the pile. No file is touched; Ctrl Z in a shoot puts its own back.`;
  return (
    <>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', gap: 2 }}>
        <Typography variant="h1">Pile: {pile.name}</Typography>
        <Typography sx={{ color: 'text.secondary', flex: 1 }}>
          {frames > shown.length
            ? `the first ${many(shown.length, 'frame')} of ${frames}; each shoot shows all of its own`
            : frames > 0
              ? `${many(frames, 'frame')} of ${many(shoots, 'shoot')}. Enter or a double click opens one in its shoot.`
              : 'empty'}
        </Typography>
        {shown.length > 0 && (
          <PassOver
            words={
              frames > shown.length ? `the first ${many(shown.length, 'frame')}` : `the pile “${pile.name}”`
            }
            over={{ frames: shown.map((frame) => frame.id) }}
          />
        )}
        {frames > 0 && (
          <Button
            color="inherit"
            disabled={busy}
            title="An album of its name with these frames, in order of time; the pile stays"
            onClick={() => run('album')}
          >
            Make an album of it
          </Button>
        )}
        <Button color="inherit" onClick={() => setAsked('rename')}>
          Rename
        </Button>
        <Button color="inherit" disabled={frames === 0} onClick={() => setAsked('empty')}>
          Empty …
        </Button>
        <Button color="inherit" onClick={() => setAsked('remove')}>
          Remove …
        </Button>
      </Box>
      {asked === 'rename' && (
        <Box
          component="form"
          sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() !== '') run('rename');
          }}
        >
          <TextField
            label="Name of the pile"
            size="small"
            value={name}
            autoFocus
            onChange={(event) => setName(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 60 } }}
          />
          <Button type="submit" variant="contained" disabled={busy || name.trim() === ''}>
            Rename
          </Button>
          <Button color="inherit" onClick={() => setAsked(null)}>
            Cancel
          </Button>
        </Box>
      )}
      {(asked === 'empty' || asked === 'remove') && (
        <Box role="group" aria-label={asked} sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
          <Typography>
            {frames > 0 && said} {asked === 'remove' && 'The pile is offered no more.'}
          </Typography>
          <Button variant="contained" disabled={busy} onClick={() => run(asked)}>
            {asked === 'empty' ? 'Take them out' : 'Remove the pile'}
          </Button>
          <Button color="inherit" onClick={() => setAsked(null)}>
            Cancel
          </Button>
        </Box>
      )}
      <Problem error={error} />
    </>
  );
}
