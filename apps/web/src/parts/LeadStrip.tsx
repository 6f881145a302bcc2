import { Box } from '@mui/material';
import { previewUrl } from '../data/frames';
import { GROUND, INK } from '../theme/theme';

/** Up to six frames that tell a shoot's course, side by side like a cut of film. */
export function LeadStrip({
  leads,
  height,
  places = 6,
  chosen = -1,
}: {
  leads: readonly string[];
  height: number;
  /** room kept for so many, so that rows align */
  places?: number;
  /** the one that a hand is over; −1: none */
  chosen?: number;
}) {
  const width = height * 1.5;
  return (
    <Box
      aria-hidden
      sx={{
        display: 'flex',
        gap: '2px',
        width: (width + 2) * places - 2,
        maxWidth: '100%',
        height,
        flex: 'none',
        overflow: 'hidden',
        bgcolor: GROUND.deep,
      }}
    >
      {leads.map((sha256, i) => (
        <img
          // By its place: a hand that presses on one lets go on the same, whatever it shows by then.
          key={i}
          src={previewUrl(sha256, 'thumb')}
          alt=""
          width={width}
          height={height}
          style={{
            objectFit: 'cover',
            ...(i === chosen ? { outline: `2px solid ${INK.full}`, outlineOffset: -2 } : {}),
          }}
          loading="lazy"
        />
      ))}
    </Box>
  );
}
