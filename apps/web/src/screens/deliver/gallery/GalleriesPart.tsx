import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useGet } from '../../../data/useGet';
import { Loading } from '../../../parts/Loading';
import { OutsidePlace, useOutsideKnown } from '../../../parts/OutsidePlace';
import { Problem } from '../../../parts/Problem';
import { Section } from '../../../parts/Section';
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
  const { data, error } = useGet(`/shoots/${shootId}/galleries`);
  const isKnown = useOutsideKnown();
  const galleries = isKnown ? data : undefined;
  const [making, setMaking] = useState(false);
  return (
    <Section title="Galleries">
      <Problem error={error} />
      {!galleries && !error && <Loading what="the galleries" />}
      {galleries?.length === 0 && (
        <Typography sx={{ color: 'text.secondary' }}>
          A gallery shows pictures to a client, who chooses among them and writes remarks; their choice comes
          back here while they make it.
        </Typography>
      )}
      {galleries && galleries.length > 0 && <OutsidePlace none="Clients reach no gallery" only="galleries" />}
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
