import type { MarkField } from '@arkiv/core';
import styles from './FilterDrawer.module.css';

const KINDS: readonly (readonly [MarkField, string])[] = [
  ['verdict', 'keep or reject'],
  ['stars', 'stars'],
  ['label', 'a label'],
];

/** After which marks the next frame comes by itself. */
export function StepPart({
  on,
  after,
  onAfter,
}: {
  on: boolean;
  after: readonly MarkField[];
  onAfter: (kinds: readonly MarkField[]) => void;
}) {
  const now = on ? after : [];
  return (
    <section className={styles.part}>
      <h2>Step on after</h2>
      {KINDS.map(([kind, words]) => (
        <label key={kind} className={styles.step}>
          <input
            type="checkbox"
            checked={now.includes(kind)}
            onChange={(event) =>
              onAfter(event.target.checked ? [...now, kind] : now.filter((one) => one !== kind))
            }
          />
          {words}
        </label>
      ))}
    </section>
  );
}
