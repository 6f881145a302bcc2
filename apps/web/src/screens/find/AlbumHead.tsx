import { Box, Button, Typography } from '@mui/material';
import type { AlbumTree } from '@arkiv/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Album } from '../../data/albums';
import { patch } from '../../data/http';
import { AlbumDialog } from '../../parts/AlbumDialog';
import { Problem } from '../../parts/Problem';
import { TextLink } from '../../parts/TextLink';
import { useAction } from '../../parts/useAction';
import { GROUND, INK } from '../../theme/theme';

/** Which album is looked into, where it stands, by what it is filled, and what can be done with it. */
export function AlbumHead({ album, tree }: { album: Album; tree: AlbumTree<Album> }) {
  const [dialog, setDialog] = useState<'change' | 'within' | null>(null);
  const navigate = useNavigate();
  const { run, busy, error } = useAction(async () => {
    await patch(`/albums/${album.id}`, { removed: true });
    void navigate('/albums');
  });
  const around = tree.path(album.id).slice(0, -1);
  const below = tree.children(album.id);
  return (
    <Box sx={{ px: 2, pt: 1.25, bgcolor: GROUND.base }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'baseline', columnGap: 2, rowGap: 0.5 }}>
        <Box component="nav" aria-label="Where it stands" sx={{ color: INK.soft }}>
          <TextLink to="/albums">Albums</TextLink> ›{' '}
          {around.map(({ id, name }) => (
            <span key={id}>
              <TextLink to={`/albums/${id}`}>{name}</TextLink> ›{' '}
            </span>
          ))}
          <Typography
            component="h1"
            sx={{ display: 'inline', fontWeight: 680, fontSize: 18, color: INK.full }}
          >
            {album.name}
          </Typography>
        </Box>
        {album.rule !== null && (
          <Box sx={{ color: INK.soft }}>
            filled by its rule{' '}
            <Box component="code" sx={{ color: INK.full }}>
              {album.rule}
            </Box>
          </Box>
        )}
        {below.length > 0 && (
          <Box component="nav" aria-label="Albums in it" sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
            {below.map(({ id, name }) => (
              <TextLink key={id} to={`/albums/${id}`}>
                {name}
              </TextLink>
            ))}
          </Box>
        )}
        <Box sx={{ flex: 1 }} />
        <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
          <Button size="small" color="inherit" onClick={() => setDialog('change')}>
            {album.rule === null ? 'Rename …' : 'Name and rule …'}
          </Button>
          <Button size="small" color="inherit" onClick={() => setDialog('within')}>
            Album in it …
          </Button>
          <Button
            size="small"
            color="inherit"
            component="a"
            href={`/api/albums/${album.id}/text?format=json`}
          >
            Save as JSON
          </Button>
          <Button
            size="small"
            color="inherit"
            component="a"
            href={`/api/albums/${album.id}/text?format=names`}
          >
            Save names
          </Button>
          <Button
            size="small"
            color="inherit"
            disabled={busy}
            onClick={() => run()}
            title="The frames stay in their shoots; the album can be brought back under Albums"
          >
            Take away
          </Button>
        </Box>
      </Box>
      <Problem error={error} />
      {dialog === 'change' && <AlbumDialog album={album} onClose={() => setDialog(null)} />}
      {dialog === 'within' && (
        <AlbumDialog
          parent={album.id}
          onClose={() => setDialog(null)}
          onMade={({ id }) => void navigate(`/albums/${id}`)}
        />
      )}
    </Box>
  );
}
