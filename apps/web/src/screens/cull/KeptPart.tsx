import { useState } from 'react';
import type { Api } from '../../data/http';
import { changeSettings } from '../../data/settings';
import { Problem } from '../../parts/Problem';
import { useAction } from '../../parts/useAction';
import styles from './FilterDrawer.module.css';

interface Props<T> {
  /** which list of the studio it is */
  list: 'filters' | 'layouts' | 'searches' | 'finishes';
  title: string;
  kept: readonly Api['KeptByNameDto'][];
  /** what would be kept now; null: nothing that is worth a name */
  now: T | null;
  /** shown beside the names, as the keys that choose them */
  keys?: readonly string[];
  onChoose: (value: T) => void;
  /** how the list is changed where it is kept in another form */
  change?: (next: (before: Kept[]) => Kept[]) => Promise<unknown>;
}

type Kept = Api['KeptByNameDto'];

/** Letters of a name: it stands in one line of the drawer. */
const MOST_LETTERS = 60;

/** What was kept by a name: chosen again, taken off the list, and what there is now kept beside it. */
export function KeptPart<T extends object>(props: Props<T>) {
  const { list, title, kept, now, keys = [], onChoose, change: changeIn } = props;
  const [name, setName] = useState('');
  const { run: change, error } = useAction((next: (before: Kept[]) => Kept[]) =>
    changeIn ? changeIn(next) : changeSettings((settings) => ({ [list]: next(settings[list] as Kept[]) })),
  );
  const words = name.trim();
  const keep = () => {
    if (words === '' || now === null) return;
    // One name, one thing: kept again it is another one.
    const one = { name: words, value: now as Record<string, unknown> };
    change((before) =>
      before.some((its) => its.name === words)
        ? before.map((its) => (its.name === words ? one : its))
        : [...before, one],
    );
    setName('');
  };
  return (
    <details className={styles.part} open={kept.length > 0}>
      <summary>{title}</summary>
      {kept.map((one, i) => (
        <div key={one.name} className={styles.row}>
          <button type="button" className={styles.choice} onClick={() => onChoose(one.value as T)}>
            <span>{one.name}</span>
            <kbd className={styles.count}>{keys[i]}</kbd>
          </button>
          <button
            type="button"
            className={styles.away}
            aria-label={`Forget ${one.name}`}
            title="Forget this name"
            onClick={() => change((before) => before.filter((its) => its.name !== one.name))}
          >
            ×
          </button>
        </div>
      ))}
      {now !== null && (
        <form
          className={styles.row}
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <input
            aria-label={`Name for ${title.toLowerCase()}`}
            placeholder="keep this one as …"
            className={styles.select}
            value={name}
            maxLength={MOST_LETTERS}
            onChange={(event) => setName(event.target.value)}
          />
          <button type="submit" className={styles.small} disabled={words === ''}>
            Keep
          </button>
        </form>
      )}
      <Problem error={error} />
    </details>
  );
}
