import { partsOfLine, withPart } from '@arkiv/core';
import { useId, useState, type Ref } from 'react';
import { count } from '../../data/format';
import { useSuggestions } from './useFind';
import styles from './Find.module.css';

interface Props {
  line: string;
  field: Ref<HTMLInputElement>;
  onLine: (line: string) => void;
  /** the hand goes on to what was found */
  onDone: () => void;
}

const KINDS = {
  ...{ word: '', keyword: 'keyword', person: 'person', shoot: 'shoot', client: 'client', place: 'place' },
} as const;

/** The one line in which is said what is looked for, with what the archive has that begins like its last word. */
export function FindLine({ line, field, onLine, onDone }: Props) {
  const [typing, setTyping] = useState(false);
  /** the suggestion that is stood at; −1: none */
  const [at, setAt] = useState(-1);
  const suggestions = useSuggestions(line, typing);
  const list = useId();
  const take = (i: number): void => {
    const { line: part } = suggestions[i]!;
    // In place of what has been typed of it.
    const begun = partsOfLine(line, { typing: true }).at(-1);
    const before = begun?.to === line.length ? line.slice(0, begun.from) : line;
    const minus = /^[-−]/.exec(line.slice(before.length))?.[0] ?? '';
    onLine(`${withPart(before, `${minus}${part}`)} `);
    // Said: what is suggested for the line as it is now would come late, and cover what was found.
    setTyping(false);
    setAt(-1);
  };
  const open = typing && suggestions.length > 0;
  return (
    <div className={styles.line}>
      <input
        ref={field}
        type="search"
        role="combobox"
        aria-label="What is looked for"
        aria-expanded={open}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={open && at >= 0 ? `${list}-${at}` : undefined}
        placeholder="heron fish  ≥4★  f/8  400mm  2029  keep  “North Pier”"
        autoComplete="off"
        spellCheck={false}
        value={line}
        onChange={(event) => {
          setTyping(true);
          setAt(-1);
          onLine(event.target.value);
        }}
        onBlur={() => {
          setTyping(false);
          setAt(-1);
        }}
        onKeyDown={(event) => {
          if (event.nativeEvent.isComposing) return;
          if (event.key === 'ArrowDown' && open) setAt((n) => Math.min(suggestions.length - 1, n + 1));
          else if (event.key === 'ArrowUp' && open && at >= 0) setAt((n) => n - 1);
          else if (event.key === 'Enter' && open && at >= 0) take(at);
          else if (event.key === 'Escape' && open) setTyping(false);
          else if (event.key === 'Enter' || event.key === 'ArrowDown') onDone();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      {open && (
        <ul id={list} role="listbox" aria-label="What the archive has" className={styles.suggestions}>
          {suggestions.map(({ kind, words, line: part, count: frames }, i) => (
            <li
              key={`${kind} ${part}`}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              // The field keeps the focus.
              onMouseDown={(event) => {
                event.preventDefault();
                take(i);
              }}
            >
              <span>{words}</span>
              <span className={styles.kind}>{KINDS[kind]}</span>
              <span className={styles.count}>{count(frames)}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
