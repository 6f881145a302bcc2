import { agreementOf } from '@arkiv/core';
import { useMemo } from 'react';
import { many } from '../../../data/format';
import { isFound } from '../../../data/frameSource';
import { post } from '../../../data/http';
import { Problem } from '../../../parts/Problem';
import { useAction } from '../../../parts/useAction';
import styles from '../FilterDrawer.module.css';
import type { Takes } from './takes';

interface Props {
  shootId: string;
  takes: Takes;
  frames: number;
  /** −1, loosely … 1, strictly */
  strict: number;
  /** how many bodies shot it */
  bodies: number;
  /** takes that two bodies shot at one moment are one */
  together: boolean;
  folded: boolean;
  /** the keys that fold, and that go through what is doubtful */
  keys: string;
  doubtKeys: string;
  onStrict: (strict: number) => void;
  onTogether: () => void;
  onFold: () => void;
  onDoubts: () => void;
}

/** How frames are grouped into takes, what somebody says of that, and whether one frame stands for each. */
export function TakesPart(props: Props) {
  const { shootId, takes, frames, strict, bodies, together, folded } = props;
  const { keys, doubtKeys, onStrict, onTogether, onFold, onDoubts } = props;
  const { run, busy, error, again } = useAction(() => post(`/takes/shoots/${shootId}`));
  return (
    <section className={styles.part} aria-labelledby="takes-part">
      <h2 id="takes-part">Takes</h2>
      <p className={styles.hint} role="status">
        {many(takes.length, 'take')}, {many(frames, 'frame')}
      </p>
      {takes.waiting > 0 && !isFound(shootId) && (
        <p className={styles.hint}>
          {many(takes.waiting, 'frame is', 'frames are')} grouped by time alone.{' '}
          <button type="button" data-later className={styles.ask} disabled={busy} onClick={() => run()}>
            Compare their pictures
          </button>
        </p>
      )}
      {error !== null && <Problem error={error} again={again} />}
      <label className={styles.slider}>
        <span>loose</span>
        <input
          type="range"
          aria-label="How strictly frames are grouped"
          min={-1}
          max={1}
          step={0.1}
          value={strict}
          onChange={(event) => onStrict(Number(event.target.value))}
        />
        <span>strict</span>
      </label>
      <Agreeing takes={takes} strict={strict} onStrict={onStrict} />
      {bodies > 1 && (
        <label className={styles.check}>
          <input type="checkbox" checked={together} onChange={onTogether} />
          two bodies at one moment make one take
        </label>
      )}
      <label className={styles.check}>
        <input type="checkbox" checked={folded} onChange={onFold} />
        on the sheet one frame for each take ({keys})
      </label>
      <button type="button" data-later className={styles.ask} style={{ marginTop: 8 }} onClick={onDoubts}>
        Go through what is doubtful ({doubtKeys})
      </button>
    </section>
  );
}

/** Where the slider would agree better with what was corrected: offered, never moved by itself. */
function Agreeing({ takes, strict, onStrict }: Pick<Props, 'takes' | 'strict' | 'onStrict'>) {
  const found = useMemo(() => agreementOf(takes.of, strict), [takes, strict]);
  if (!found) return null;
  return (
    <p className={styles.hint}>
      {found.strictness > strict ? 'More strictly' : 'More loosely'} it agrees with {found.agrees} of your{' '}
      {found.of} corrections, here with {found.now}.{' '}
      <button type="button" data-later className={styles.ask} onClick={() => onStrict(found.strictness)}>
        Group so
      </button>
    </p>
  );
}
