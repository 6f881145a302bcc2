import { many } from '../../../data/format';
import { post, type Api } from '../../../data/http';
import { useAction } from '../../../parts/useAction';
import type { PileChoice } from '../cullFilter';
import { IntoLine } from '../IntoLine';
import { pileFor } from './pileFor';

interface Props {
  piles: readonly Api['PileDto'][];
  /** id of the pile that frames go into by now */
  current: string | null;
  /** how many would be put in */
  frames: number;
  onPut: (pile: PileChoice) => void;
  onEnd: () => void;
}

/** Puts frames into a pile. */
export function PileLine({ piles, current, frames, onPut, onEnd }: Props) {
  const { run, error, busy } = useAction(async (name: string) => {
    onPut(await post('/piles', { name }));
    onEnd();
  });
  return (
    <IntoLine
      words="Into the pile"
      label="Into the pile: its digit or its name"
      choices={piles}
      current={current}
      meant={pileFor}
      note={(found, name) =>
        name === ''
          ? piles.length > 0
            ? 'its digit, or its name; a new name makes a new pile'
            : 'a name makes the first pile'
          : found
            ? `Enter puts ${many(frames, 'frame')} into “${found.name}”`
            : `Enter makes the pile “${name}” and puts ${many(frames, 'frame')} in`
      }
      onPut={onPut}
      onNew={run}
      busy={busy}
      error={error}
      longest={60}
      onEnd={onEnd}
    />
  );
}
