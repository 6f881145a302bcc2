import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useGet } from '../../../data/useGet';
import { Loading } from '../../../parts/Loading';
import { Problem } from '../../../parts/Problem';
import { Section } from '../../../parts/Section';
import { INK, STRIKE_TEXT } from '../../../theme/theme';
import { GalleryCard } from './GalleryCard';
import { GalleryDialog } from './GalleryDialog';

/** Pages on which clients see pictures of a shoot, choose among them and say what they think. */
export function GalleriesPart({
  shootId,
  title,
  keepers,
}: {
  shootId: string;
  title: string;
  keepers: number;
}) {
  const { data: galleries, error } = useGet(`/shoots/${shootId}/galleries`);
  const { data: place } = useGet('/gallery-place');
  const [making, setMaking] = useState(false);
  return (
    <Section title="Galleries">
      <Problem error={error} />
      {!galleries && !error && <Loading what="the galleries" />}
      {place?.problem && (
        <Typography sx={{ color: STRIKE_TEXT, mb: 1 }}>Clients reach no gallery: {place.problem}.</Typography>
      )}
      {galleries?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          A gallery shows pictures to a client, who chooses among them and writes remarks; their choice comes
          back here while they make it.
        </Typography>
      )}
      {place && !place.open && !place.problem && galleries && galleries.length > 0 && (
        <Box sx={{ color: INK.soft, mb: 1 }}>
          Only this computer reaches galleries so far: README, “Galleries for clients”, tells how others do.
        </Box>
      )}
      {galleries?.map((gallery) => (
        <GalleryCard key={gallery.id} gallery={gallery} shoot={title} />
      ))}
      <Button
        variant="outlined"
        color="inherit"
        sx={{ mt: 1.5 }}
        disabled={keepers === 0}
        onClick={() => setMaking(true)}
      >
        Make a gallery …
      </Button>
      {making && <GalleryDialog shootId={shootId} title={title} onClose={() => setMaking(false)} />}
    </Section>
  );
}
