import { Box, Button, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAlbums, type Album } from '../../data/albums';
import { many } from '../../data/format';
import { patch } from '../../data/http';
import { useGet } from '../../data/useGet';
import { AlbumDialog } from '../../parts/AlbumDialog';
import { Loading } from '../../parts/Loading';
import { Page } from '../../parts/Page';
import { Problem } from '../../parts/Problem';
import { Section } from '../../parts/Section';
import { useAction } from '../../parts/useAction';
import { useKeptState } from '../../parts/useKeptState';
import { INK } from '../../theme/theme';
import { AlbumRows } from './AlbumRows';
import { albumRows, moveOf, type AlbumMove } from './albumMoves';
import { BringAlbums } from './BringAlbums';

/** All albums as they stand in each other, each with what it holds by now. */
export function AlbumsScreen() {
  const { tree, removed, loaded, error } = useAlbums();
  const { data: held } = useGet('/albums/held');
  const [chosen, choose] = useKeptState<string | null>('albums.chosen', null);
  const [folded, setFolded] = useKeptState<string[]>('albums.folded', []);
  const [dialog, setDialog] = useState<{ album?: Album; parent?: string } | null>(null);
  const [bringing, setBringing] = useState(false);
  const navigate = useNavigate();
  const holds = useMemo(() => new Map(held?.map((one) => [one.id, one])), [held]);
  const rows = useMemo(() => albumRows(tree, new Set(folded)), [tree, folded]);
  const change = useAction((id: string, to: Parameters<typeof patch<`/albums/${string}`>>[1]) =>
    patch(`/albums/${id}`, to!),
  );
  const move = (id: string, where: AlbumMove) => {
    const to = moveOf(tree, id, where);
    if (to) change.run(id, to);
  };
  const here = chosen !== null && tree.get(chosen) ? chosen : (rows[0]?.album.id ?? null);
  return (
    <Page
      title="Albums"
      lead="Lasting sets of frames over all shoots. An album holds no files: what is done here touches none."
      actions={
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
          <Button variant="contained" onClick={() => setDialog({})}>
            New album …
          </Button>
          <Button color="inherit" onClick={() => setBringing(true)}>
            Bring in …
          </Button>
          {tree.albums.length > 0 && (
            <Button color="inherit" component="a" href="/api/albums/text">
              Save all as JSON
            </Button>
          )}
        </Box>
      }
    >
      <Problem error={error ?? change.error} />
      {!loaded && !error && <Loading what="the albums" />}
      {loaded && tree.albums.length === 0 && (
        <Typography sx={{ color: 'text.secondary', maxWidth: 620 }}>
          No album yet. Make one here, or where frames are: in Cull and in Find, Alt V puts the frame or the
          selection into an album. A rule album holds what a line finds, as “heron ≥4★”, now and later.
        </Typography>
      )}
      {rows.length > 0 && here !== null && (
        <AlbumRows
          rows={rows}
          holds={holds}
          chosen={here}
          onChoose={choose}
          onOpen={(id) => void navigate(`/albums/${id}`)}
          onFold={(id, open) => setFolded((now) => (open ? now.filter((one) => one !== id) : [...now, id]))}
          onMove={move}
          onChange={(album) => setDialog({ album })}
          onWithin={(parent) => setDialog({ parent })}
          onAway={(id) => change.run(id, { removed: true })}
        />
      )}
      {removed.length > 0 && (
        <Section
          title="Taken away"
          aside={<Box sx={{ color: INK.faint }}>{many(removed.length, 'album')}</Box>}
        >
          <Typography sx={{ color: 'text.secondary', mb: 1 }}>
            Each keeps what was in it, and is brought back as it was.
          </Typography>
          {removed.map(({ id, name }) => (
            <Box key={id} sx={{ display: 'flex', alignItems: 'center', gap: 2, py: 0.25 }}>
              <Box sx={{ minWidth: 220 }}>{name}</Box>
              <Button size="small" color="inherit" onClick={() => change.run(id, { removed: false })}>
                Bring “{name}” back
              </Button>
            </Box>
          ))}
        </Section>
      )}
      {dialog && (
        <AlbumDialog
          {...dialog}
          onClose={() => setDialog(null)}
          onMade={({ id, parent }) => {
            choose(id);
            if (parent !== null) setFolded((now) => now.filter((one) => one !== parent));
          }}
        />
      )}
      {bringing && <BringAlbums onClose={() => setBringing(false)} />}
    </Page>
  );
}
