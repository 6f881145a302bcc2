import { Box } from '@mui/material';
import { matches, type Filter } from '@arkiv/core';
import { useMemo, useSyncExternalStore } from 'react';
import { count } from '../data/format';
import { useSettings } from '../data/live';
import { shootStore } from '../data/shootStore';
import { INK } from '../theme/theme';
import { FrameThumbs } from './FrameThumbs';
import { Loading } from './Loading';
import { TextLink } from './TextLink';

/** Pictures that say what is spoken of; all of them are in Cull. */
const SHOWN = 36;

/** The keepers of a shoot by the studio's rule, as pictures. */
export function KeeperThumbs({ shootId }: { shootId: string }) {
  const store = shootStore(shootId);
  const { frames, loaded } = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  const keepers = useMemo(() => {
    const rule = settings?.rules.keeper as Filter | undefined;
    return rule ? frames.filter((frame) => matches(rule, frame)).map((frame) => ({ ...frame, shootId })) : [];
  }, [settings, frames, shootId]);
  if (!loaded) return <Loading what="the keepers" />;
  if (keepers.length === 0) return null;
  return (
    <Box sx={{ mb: 2 }}>
      <FrameThumbs frames={keepers.slice(0, SHOWN)} />
      {keepers.length > SHOWN && (
        <Box sx={{ color: INK.soft, mt: 0.5 }}>
          and {count(keepers.length - SHOWN)} more,{' '}
          <TextLink to={`/shoots/${shootId}/cull`}>all in Cull</TextLink>
        </Box>
      )}
    </Box>
  );
}
