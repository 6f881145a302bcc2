import type { CullCommand } from '../../keys/actions';
import type { Run } from './cullState';
import { Line } from './Line';

/** Says how the run-through goes, and stops it. */
export function RunLine({
  run,
  waits,
  onRun,
}: {
  run: Run;
  /** the frame's picture is still on its way */
  waits: boolean;
  onRun: (command: CullCommand) => void;
}) {
  const way = run.back ? 'back' : 'on';
  return (
    <Line
      words={run.paused ? 'Run-through stopped' : `Run-through ${way}, ${run.seconds} s a frame`}
      note={waits ? 'waiting for the picture' : '+ and − change its pace, Shift R its way, Esc leaves it'}
      actions={[
        {
          words: run.paused ? 'Go on' : 'Stop',
          keys: 'P',
          run: () => onRun({ do: 'pause' }),
        },
      ]}
    />
  );
}
