import { useEffect, useRef, useState } from 'react';
import { Line } from './Line';
import styles from './IntoLine.module.css';

export interface IntoChoice {
  id: string;
  name: string;
  /** the digit that chooses it; null or missing: its name does */
  number?: number | null;
}

interface Props<C extends IntoChoice> {
  /** what it is put into, as in “Into the pile” */
  words: string;
  /** how the field is called */
  label: string;
  choices: readonly C[];
  /** id of what was put into last */
  current: string | null;
  /** what typed words mean; null: none of these */
  meant: (text: string, choices: readonly C[]) => C | null;
  /** of the typed name what Enter does, or of nothing typed what can be done */
  note: (found: C | null, name: string) => string;
  onPut: (choice: C) => void;
  /** makes another one of a name that is new */
  onNew: (name: string) => void;
  /** another one is being made */
  busy: boolean;
  error: unknown;
  longest: number;
  onEnd: () => void;
}

/** Puts frames into something that is chosen by its digit, by its name or by a click; a name that is new makes one. */
export function IntoLine<C extends IntoChoice>(props: Props<C>) {
  const { words, label, choices, current, meant, note, onPut, onNew, busy, error, longest, onEnd } = props;
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  useEffect(() => field.current?.focus(), []);
  const put = (choice: C) => {
    onPut(choice);
    onEnd();
  };
  const found = meant(text, choices);
  const name = text.trim();
  const wanted = name.toLowerCase();
  const offered = choices.filter((choice) => choice.name.toLowerCase().includes(wanted));
  return (
    <Line
      words={words}
      input={
        <>
          <input
            ref={field}
            aria-label={label}
            value={text}
            spellCheck={false}
            autoComplete="off"
            maxLength={longest}
            onChange={(event) => {
              const typed = event.target.value;
              const byDigit = choices.find(({ number }) => number != null && typed === String(number));
              if (text === '' && byDigit) put(byDigit);
              else setText(typed);
            }}
            onBlur={() => !busy && onEnd()}
            onKeyDown={(event) => {
              if (event.key === 'Escape') onEnd();
              if (event.key !== 'Enter' || name === '') return;
              if (found) put(found);
              else onNew(name);
            }}
          />
          {/* A click takes the field's focus only when it is over: the line would be gone under it. */}
          <span className={styles.choices} onPointerDown={(event) => event.preventDefault()}>
            {offered.map((choice) => (
              <button
                key={choice.id}
                type="button"
                tabIndex={-1}
                className={styles.choice}
                data-current={choice.id === current || undefined}
                onClick={() => put(choice)}
              >
                {choice.number != null && <kbd>{choice.number}</kbd>} {choice.name}
              </button>
            ))}
          </span>
        </>
      }
      note={error ? (error as Error).message : note(found, name)}
    />
  );
}
