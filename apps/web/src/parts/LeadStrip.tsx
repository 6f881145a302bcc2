import { Box } from '@mui/material';
import { previewUrl } from '../data/frames';
import { GROUND } from '../theme/theme';

/** Up to six frames that tell a shoot's course, side by side like a cut of film. */
export function LeadStrip({ leads, height }: { leads: readonly string[]; height: number }) {
  return (
    <Box
      aria-hidden
      sx={{ display: 'flex', gap: '2px', width: (height * 1.5 + 2) * 6, flex: 'none', bgcolor: GROUND.deep }}
    >
      {leads.map((sha256) => (
        <img
          key={sha256}
          src={previewUrl(sha256, 'thumb')}
          alt=""
          width={height * 1.5}
          height={height}
          style={{ objectFit: 'cover' }}
          loading="lazy"
        />
      ))}
    </Box>
  );
}
