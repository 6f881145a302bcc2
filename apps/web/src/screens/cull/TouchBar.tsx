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
  /** frames that are selected */
  selected: number;
  canUndo: boolean;
  onRun: (command: CullCommand) => void;
}

type Further = 'stars' | 'takes' | 'more';
interface Choice {
  words: string;
  /** another set of choices, or what is done */
  to: CullCommand | Further;
  pressed?: boolean;
  disabled?: boolean;
}

/** What is wanted now and then, one tap further. */
const MORE: readonly Choice[] = [
  { words: 'Takes', to: 'takes' },
  { words: 'Pile', to: { do: 'pileLine' } },
  { words: 'Album', to: { do: 'albumLine' } },
  { words: 'Note', to: { do: 'noteLine' } },
  { words: 'Words', to: { do: 'wordsLine' } },
  { words: 'Pass', to: { do: 'passes' } },
  { words: 'Filter', to: { do: 'drawer' } },
  { words: 'Finish', to: { do: 'finish' } },
  { words: 'Before', to: { do: 'before' } },
  { words: 'Camera', to: { do: 'camera' } },
  { words: 'Follow', to: { do: 'follow' } },
  { words: 'History', to: { do: 'history', of: 'shoot' } },
  { words: 'Hand-off', to: { do: 'handoff' } },
];

/** What fingers say of takes: of the frame that one stands at, or of what is selected. */
const takesWith = (selected: number, sheet: boolean): readonly Choice[] => [
  { words: 'Begins here', to: { do: 'take', deed: 'split' } },
  { words: 'Join with the one before', to: { do: 'take', deed: 'join' } },
  { words: 'Belong together', to: { do: 'take', deed: 'together' }, disabled: selected < 2 },
  { words: 'Out, alone', to: { do: 'take', deed: 'out' } },
  { words: 'Stands for it', to: { do: 'take', deed: 'lead' } },
  ...(sheet ? [{ words: 'Fold', to: { do: 'fold' } as const }] : []),
  { words: 'Doubtful ones', to: { do: 'doubts' } },
];

const starsOf = (frame: LoadedFrame | null): readonly Choice[] =>
  [0, 1, 2, 3, 4, 5].map((n) => ({
    words: n === 0 ? 'none' : `${n}★`,
    to: { do: 'stars', to: n },
    pressed: frame?.stars === n,
  }));

const FURTHER_WORDS: Readonly<Record<Further, string>> = { stars: 'Stars', takes: 'Takes', more: 'More' };

/** A further set of choices: one is chosen, and the bar stands there again. */
function Choices({
  label,
  choices,
  onChoose,
}: {
  label: string;
  choices: readonly Choice[];
  /** null: nothing was chosen */
  onChoose: (to: Choice['to'] | null) => void;
}) {
  return (
    <div className={styles.bar} role="toolbar" aria-label={label}>
      {choices.map(({ words, to, pressed, disabled }) => (
        <button
          key={words}
          type="button"
          aria-pressed={pressed}
          disabled={disabled}
          onClick={() => onChoose(to)}
        >
          {words}
        </button>
      ))}
      <button type="button" onClick={() => onChoose(null)}>
        Back
      </button>
    </div>
  );
}

/** What fingers mark and move with: large, in the order in which a decision is made. */
export const TouchBar = memo(function TouchBar({ frame, view, selected, canUndo, onRun }: Props) {
  const [further, setFurther] = useState<Further | null>(null);
  const sheet = view === 'sheet';
  if (further !== null)
    return (
      <Choices
        label={FURTHER_WORDS[further]}
        choices={
          further === 'stars' ? starsOf(frame) : further === 'takes' ? takesWith(selected, sheet) : MORE
        }
        onChoose={(to) => {
          setFurther(typeof to === 'string' ? to : null);
          if (to !== null && typeof to !== 'string') onRun(to);
        }}
      />
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
      <button type="button" onClick={() => setFurther('stars')}>
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
      <button type="button" onClick={() => setFurther('more')}>
        More
      </button>
      <button type="button" aria-label="next frame" onClick={() => onRun({ do: 'step', by: 1 })}>
        →
      </button>
    </div>
  );
});
