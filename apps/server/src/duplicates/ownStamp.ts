import { STUDIO, type Stamp } from '@arkiv/core';
import type { Clock } from '../system/clock';
import type { Ids } from '../system/ids';

/** In the journal, what the server makes for a window that asked: the studio’s own decision, taken back as any other. */
export const ownStamp = (ids: Ids, clock: Clock): Stamp => ({
  ...{ newId: () => ids.newId(), at: clock.now(), window: 'server', by: STUDIO },
});
