import { memo, useState, useSyncExternalStore } from 'react';
import type { LoadedFrame } from '../../data/frames';
import type { CullCommand } from '../../keys/actions';
import type { View } from './cullState';
import styles from './TouchBar.module.css';

const FINGERS = '(pointer: coarse)';
const fingers = {
  subscribe(listener: () => void): () => void {
    const query = window.matchMedia(FINGERS);
    query.addEventListener('change', listener);
    return () => query.removeEventListener('change', listener);
  },
  snapshot: () => window.matchMedia(FINGERS).matches,
};

/** Whether fingers work this screen, and not a mouse. */
export const useFingers = (): boolean => useSyncExternalStore(fingers.subscribe, fingers.snapshot);

interface Props {
  frame: LoadedFrame | null;
  view: View;
  canUndo: boolean;
  onRun: (command: CullCommand) => void;
}

/** What is wanted now and then, one tap further. */
const MORE: readonly { words: string; command: CullCommand }[] = [
  { words: 'Pile', command: { do: 'pileLine' } },
  { words: 'Note', command: { do: 'noteLine' } },
  { words: 'Pass', command: { do: 'passes' } },
  { words: 'Filter', command: { do: 'drawer' } },
  { words: 'Camera', command: { do: 'camera' } },
  { words: 'Hand-off', command: { do: 'handoff' } },
];

/** What fingers mark and move with: large, in the order in which a decision is made. */
export const TouchBar = memo(function TouchBar({ frame, view, canUndo, onRun }: Props) {
  const [stars, setStars] = useState(false);
  const [more, setMore] = useState(false);
  const sheet = view === 'sheet';
  if (stars)
    return (
      <div className={styles.bar} role="toolbar" aria-label="Stars">
        {[0, 1, 2, 3, 4, 5].map((n) => (
          <button
            key={n}
            type="button"
            aria-pressed={frame?.stars === n}
            onClick={() => {
              setStars(false);
              onRun({ do: 'stars', to: n });
            }}
          >
            {n === 0 ? 'none' : `${n}★`}
          </button>
        ))}
      </div>
    );
  if (more)
    return (
      <div className={styles.bar} role="toolbar" aria-label="More">
        {MORE.map(({ words, command }) => (
          <button
            key={words}
            type="button"
            onClick={() => {
              setMore(false);
              onRun(command);
            }}
          >
            {words}
          </button>
        ))}
        <button type="button" onClick={() => setMore(false)}>
          Back
        </button>
      </div>
    );
  return (
    <div className={styles.bar} role="toolbar" aria-label="Marks and steps">
      <button type="button" aria-label="previous frame" onClick={() => onRun({ do: 'step', by: -1 })}>
        ←
      </button>
      <button
        type="button"
        className={styles.reject}
        aria-pressed={frame?.verdict === 'reject'}
        onClick={() => onRun({ do: 'verdict', to: 'reject' })}
      >
        Reject
      </button>
      <button
        type="button"
        aria-pressed={frame?.verdict === 'undecided'}
        onClick={() => onRun({ do: 'verdict', to: 'undecided' })}
      >
        Undecided
      </button>
      <button
        type="button"
        className={styles.keep}
        aria-pressed={frame?.verdict === 'keep'}
        onClick={() => onRun({ do: 'verdict', to: 'keep' })}
      >
        Keep
      </button>
      <button type="button" onClick={() => setStars(true)}>
        {frame && frame.stars > 0 ? `${frame.stars}★` : '★'}
      </button>
      <button type="button" disabled={!canUndo} onClick={() => onRun({ do: 'undo' })}>
        Undo
      </button>
      <button type="button" onClick={() => onRun({ do: 'view', to: sheet ? 'single' : 'sheet' })}>
        {sheet ? 'Single' : 'Sheet'}
      </button>
      {!sheet && (
        <button type="button" onClick={() => onRun({ do: 'view', to: view === 'side' ? 'single' : 'side' })}>
          {view === 'side' ? 'Single' : 'Side by side'}
        </button>
      )}
      <button type="button" onClick={() => setMore(true)}>
        More
      </button>
      <button type="button" aria-label="next frame" onClick={() => onRun({ do: 'step', by: 1 })}>
        →
      </button>
    </div>
  );
});
