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

/** Which of the keepers are meant: the ids of the first of them, and how many they are. */
export interface SomeKeepers {
  first: readonly string[];
  frames: number;
}

/** The keepers of a shoot by the studio's rule, as pictures, or some of them. */
export function KeeperThumbs({ shootId, some }: { shootId: string; some?: SomeKeepers | undefined }) {
  const store = shootStore(shootId);
  const { frames, loaded } = useSyncExternalStore(store.subscribe, store.snapshot);
  const { data: settings } = useSettings();
  const keepers = useMemo(() => {
    if (some) {
      const byId = new Map(frames.map((frame) => [frame.id, frame]));
      return some.first.flatMap((id) => {
        const frame = byId.get(id);
        return frame ? { ...frame, shootId } : [];
      });
    }
    const rule = settings?.rules.keeper as Filter | undefined;
    return rule ? frames.filter((frame) => matches(rule, frame)).map((frame) => ({ ...frame, shootId })) : [];
  }, [settings, frames, shootId, some]);
  const total = some?.frames ?? keepers.length;
  if (!loaded) return <Loading what="the keepers" />;
  if (keepers.length === 0) return null;
  return (
    <Box sx={{ mb: 2 }}>
      <FrameThumbs frames={keepers.slice(0, SHOWN)} />
      {total > SHOWN && (
        <Box sx={{ color: INK.soft, mt: 0.5 }}>
          and {count(total - SHOWN)} more, <TextLink to={`/shoots/${shootId}/cull`}>all in Cull</TextLink>
        </Box>
      )}
    </Box>
  );
}
