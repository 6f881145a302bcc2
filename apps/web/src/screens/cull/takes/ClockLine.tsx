import type { CullCommand } from '../../../keys/actions';
import { Problem } from '../../../parts/Problem';
import { Line } from '../Line';
import type { ClockOffer } from './useClocks';

/** A clock that seems to be off: what both bodies saw is one key away, and so is its correction. */
export function ClockLine({
  clock: { words, accept, look, undo, leave, error, again },
  keyOf,
  run,
}: {
  clock: ClockOffer;
  keyOf: (action: string) => string;
  run: (command: CullCommand) => void;
}) {
  return (
    <>
      {error !== null && <Problem error={error} again={again} />}
      <Line
        words={words}
        actions={[
          ...(look
            ? [{ words: 'Look', keys: keyOf('clock-look'), run: () => run({ do: 'clockLook' }) }]
            : []),
          ...(accept
            ? [{ words: 'Correct the clock', keys: keyOf('clock'), run: () => run({ do: 'clock' }) }]
            : []),
          ...(undo ? [{ words: 'Undo', keys: '', run: undo }] : []),
        ]}
        onEnd={leave}
      />
    </>
  );
}
