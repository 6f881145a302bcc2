import { Box } from '@mui/material';
import { Link } from 'react-router';
import { numberOf, placeholderOf, previewUrl } from '../data/frames';
import type { Api } from '../data/http';
import { CAPTION, GROUND, INK } from '../theme/theme';

type Shown = Pick<
  Api['PlacedFrameDto'],
  'id' | 'shootId' | 'name' | 'picture' | 'role' | 'format' | 'verdict'
>;

/** Pixels of a thumbnail: a dozen stand side by side on a page. */
const SIZE = { width: 92, height: 62 };

/** Frames as small pictures in rows; each opens in Cull. */
export function FrameThumbs({ frames }: { frames: readonly Shown[] }) {
  return (
    <Box
      component="ul"
      sx={{ m: 0, p: 0, listStyle: 'none', display: 'flex', flexWrap: 'wrap', gap: '4px', fontSize: 12 }}
    >
      {frames.map((frame) => (
        <Box component="li" key={frame.id}>
          <Link
            to={`/shoots/${frame.shootId}/cull?frame=${frame.id}`}
            aria-label={`Frame ${numberOf(frame.name)} in Cull`}
            style={{ display: 'block', color: 'inherit', textDecoration: 'none' }}
          >
            <Box
              sx={{
                ...SIZE,
                position: 'relative',
                display: 'grid',
                // An upright picture is as high as its cell, and no higher.
                gridTemplateRows: 'minmax(0, 1fr)',
                placeItems: 'center',
                overflow: 'hidden',
                bgcolor: GROUND.deep,
                ...CAPTION,
                color: INK.faint,
                textAlign: 'center',
              }}
            >
              {frame.picture ? (
                <img
                  src={previewUrl(frame.picture, 'thumb')}
                  alt=""
                  loading="lazy"
                  style={{ width: '100%', height: '100%', minHeight: 0, objectFit: 'contain' }}
                />
              ) : (
                placeholderOf(frame)
              )}
            </Box>
            <Box sx={{ ...CAPTION, color: INK.soft, width: SIZE.width, overflow: 'hidden' }}>
              {numberOf(frame.name)}
            </Box>
          </Link>
        </Box>
      ))}
    </Box>
  );
}
