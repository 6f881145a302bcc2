import { isLong } from '@arkiv/core';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { count, many } from '../../../data/format';
import { Line } from '../Line';
import styles from './WordsLine.module.css';
import type { KnownTerms } from '../../../data/vocabulary';
import { keepSet, lastSets } from '../../../data/lastSets';
import {
  suggested,
  withSuggested,
  wordsOf,
  type KeywordOf,
  type Worded,
  type WordsWish,
} from '../../../data/words';

interface Props {
  /** what it would be said of */
  frames: readonly Worded[];
  /** keywords of the whole shoot */
  known: readonly KeywordOf[];
  /** the vocabulary; null: on its way */
  terms: KnownTerms | null;
  onWrite: (wish: WordsWish) => void;
  onEnd: () => void;
}

/** Keywords that are offered beside the field: a hand's width of them. */
const OFFERED = 6;

/** Keywords and caption of what is selected: what all have, what some have, and what is typed to come to it. */
export function WordsLine({ frames, known, terms, onWrite, onEnd }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const { keywords, caption, different } = useMemo(() => wordsOf(frames), [frames]);
  const [typed, setTyped] = useState('');
  const [changed, setChanged] = useState<ReadonlyMap<string, boolean>>(new Map());
  const [said, setSaid] = useState<string | null>(null);
  const [sets] = useState(lastSets);
  /** which of the last sets stands in the field, counted from 1; 0: what was typed */
  const [set, setSet] = useState(0);
  useEffect(() => field.current?.focus(), []);
  const write = () => {
    const of = (to: boolean) => [...changed].filter(([, its]) => its === to).map(([word]) => word);
    keepSet(typed);
    onWrite({ typed, off: of(false), on: of(true), caption: said });
    onEnd();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Escape') onEnd();
    if (event.key === 'Enter') write();
  };
  /** As in a line of commands: up goes back through what was typed before, down comes back. */
  const onSetKey = (event: KeyboardEvent) => {
    const by = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    const next = Math.min(sets.length, Math.max(0, set + by));
    if (by === 0 || next === set) return onKeyDown(event);
    event.preventDefault();
    setSet(next);
    setTyped(next === 0 ? '' : sets[next - 1]!);
  };
  /** What all have goes off and comes back; what some have comes to all first. */
  const turn = ({ word, frames: some }: KeywordOf) => {
    const now = changed.get(word);
    const next = new Map(changed);
    if (some === frames.length) next.set(word, now === false);
    else if (now === undefined) next.set(word, true);
    else if (now) next.set(word, false);
    else next.delete(word);
    if (some === frames.length && now === false) next.delete(word);
    setChanged(next);
  };
  const has = keywords.map(({ word }) => word);
  const begun = typed.split(/[,;]/).at(-1)!;
  const found = terms?.search.find(begun, OFFERED).map(({ term }) => term.word) ?? [];
  // Terms first; then words of this shoot.
  const offers = [...new Set([...found, ...suggested(typed, known, [...has, ...found], OFFERED)])].slice(
    0,
    OFFERED,
  );
  return (
    <Line
      words="Keywords"
      input={
        <span className={styles.fields}>
          <span className={styles.words}>
            {keywords.map((of) => {
              const to = changed.get(of.word);
              const all = of.frames === frames.length;
              return (
                <button
                  key={of.word}
                  type="button"
                  className={styles.word}
                  data-to={to === undefined ? undefined : to ? 'on' : 'off'}
                  title={wordTitle(all, to)}
                  onClick={() => turn(of)}
                >
                  {of.word}
                  {!all && <small> {to ? 'to all' : `${count(of.frames)} of ${count(frames.length)}`}</small>}
                </button>
              );
            })}
          </span>
          <input
            ref={field}
            aria-label="Keywords, parted by commas"
            value={typed}
            spellCheck
            autoComplete="off"
            onChange={(event) => setTyped(event.target.value)}
            onKeyDown={onSetKey}
          />
          <span className={styles.words}>
            {offers.map((word) => (
              <button
                key={word}
                type="button"
                tabIndex={-1}
                className={styles.offer}
                // The hand goes on typing.
                onPointerDown={(event) => event.preventDefault()}
                onClick={() => setTyped(withSuggested(typed, word))}
              >
                {word}
              </button>
            ))}
          </span>
          <input
            aria-label="Caption"
            className={styles.caption}
            value={said ?? caption ?? ''}
            spellCheck
            placeholder={
              different > 0 ? `not the same in all ${count(frames.length)}: each keeps its own` : 'Caption'
            }
            onChange={(event) => setSaid(event.target.value)}
            onKeyDown={onKeyDown}
          />
        </span>
      }
      actions={[{ words: 'Write', keys: 'Enter', run: write }]}
      onEnd={onEnd}
      note={[
        `on ${many(frames.length, 'frame')}`,
        sets.length > 0 && typed === '' ? '↑ the last keywords' : '',
        said !== null && isLong(said) ? 'longer than old programs read' : '',
      ]
        .filter((part) => part !== '')
        .join(' · ')}
    />
  );
}

function wordTitle(all: boolean, to: boolean | undefined): string {
  if (to === false) return all ? 'Taken off; a click leaves it' : 'Taken off; a click leaves it as it is';
  if (to) return 'Comes to all; a click takes it off';
  return all ? 'A click takes it off' : 'Some have it; a click gives it to all';
}
