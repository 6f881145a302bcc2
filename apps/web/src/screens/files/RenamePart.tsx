import { useMemo, useState, useSyncExternalStore } from 'react';
import { many } from '../../data/format';
import type { Api } from '../../data/http';
import { shootStore } from '../../data/shootStore';
import { lowestNumber } from './lowestNumber';
import { Section } from '../../parts/Section';
import { FrameNames } from './FrameNames';
import { MoveOutcome } from './MoveOutcome';
import { moveNow, useMovePlan, type MoveRequest } from './useMove';

/** Names all frames of a shoot anew by a pattern; the camera's own names stay in the sidecars. */
export const RenamePart = ({ shoot }: { shoot: Api['ShootDto'] }) => (
  <Section title="Rename" folded="files.rename">
    <Renamed shoot={shoot} />
  </Section>
);

/** Asked for only while it is unfolded. */
function Renamed({ shoot }: { shoot: Api['ShootDto'] }) {
  const [pattern, setPattern] = useState(shoot.pattern);
  const [typed, setTyped] = useState<number | null>(null);
  const store = shootStore(shoot.id);
  const { frames } = useSyncExternalStore(store.subscribe, store.snapshot);
  const lowest = useMemo(() => lowestNumber(shoot.pattern, frames), [shoot.pattern, frames]);
  const start = typed ?? lowest;
  const asked: MoveRequest = { kind: 'rename', shootId: shoot.id, pattern, seqStart: start, rename: true };
  // A title, client or place that was corrected is in the names that the same pattern gives.
  const { plan, error } = useMovePlan(
    asked,
    `${shoot.title} ${shoot.client} ${shoot.place} ${frames[0]?.name}`,
  );
  return (
    <>
      <FrameNames
        {...{ pattern, start, plan }}
        onPattern={setPattern}
        onStart={setTyped}
        none="As the frames are named now."
      />
      <MoveOutcome
        plan={plan}
        error={error}
        words={`Rename ${many(plan?.frames || shoot.frames, 'frame')}`}
        none="All frames are called so already."
        run={() => moveNow(asked)}
      />
    </>
  );
}
