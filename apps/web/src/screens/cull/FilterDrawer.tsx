import { Button, TextField } from '@mui/material';
import { partsOfLine, type KeeperRules, type LineContext } from '@arkiv/core';
import { memo, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useOfOrder } from '../../data/ofOrder';
import type { Api } from '../../data/http';
import type { ShootState } from '../../data/shootStore';
import { useStages } from '../../data/stages';
import { Tally } from '../../data/tally';
import { TextLink } from '../../parts/TextLink';
import { NO_FILTER, TRUTHS, type CullFilter, type StarsKind } from './cullFilter';
import { CHOSEN, TIMES, type Chosen, type ChosenTime, type Value } from './facetValues';
import { useChangingValues, type Changing } from './changingValues';
import { facetKeys, facetsOf, STARS_CHOICES, TITLES, VERDICTS } from './facets';
import styles from './FilterDrawer.module.css';

interface Props {
  shoot: ShootState;
  filter: CullFilter;
  rules: KeeperRules;
  /** what the line of words and facts is read with */
  line: LineContext;
  /** what the studio calls its labels */
  labels: Readonly<Record<string, string>>;
  piles: readonly Api['PileDto'][];
  onFilter: (filter: CullFilter) => void;
  /** frames are to be put into a pile */
  onPile: () => void;
  /** what else the drawer holds, above the filter and below it */
  children?: ReactNode;
  below?: ReactNode;
}

const STARS_WORDS: Record<StarsKind, string> = {
  any: 'any',
  atLeast: 'at least',
  is: 'exactly',
  atMost: 'at most',
  not: 'not',
};
/** Values of a section that are open from the start: what is asked for daily. */
const OPEN: readonly string[] = ['label'];

/** The one drawer of Cull: what is shown, with the count of each choice. */
export const FilterDrawer = memo(function FilterDrawer(props: Props) {
  const { shoot, filter, rules, line, labels, piles, onFilter, onPile, children, below } = props;
  const first = useRef<HTMLElement>(null);
  useEffect(() => first.current?.querySelector<HTMLElement>('button:not([data-later])')?.focus(), []);
  const facets = useOfOrder(shoot, facetsOf);
  const stages = useStages();
  const stageValues = useMemo(
    () => [
      ...stages.map(({ id, name }) => ({ value: id, words: name })),
      { value: null, words: 'none said' },
    ],
    [stages],
  );
  const changing = {
    keywords: useChangingValues(shoot, 'keywords'),
    persons: useChangingValues(shoot, 'persons'),
    advice: useChangingValues(shoot, 'advice'),
  };
  const keys = useMemo(() => facetKeys(filter, rules, line), [filter, rules, line]);
  const [tally] = useState(() => new Tally());
  const counts = tally.of(shoot, keys);
  const countFor = (section: string, value: Value) => counts.of(section, value);
  const { verdicts, stars, chosen = {}, times = [], piles: inPiles = [], note = null } = filter;
  const problem = useMemo(
    () => partsOfLine(filter.text ?? '', line).find((part) => part.problem)?.problem,
    [filter.text, line],
  );
  const truths = TRUTHS.filter(({ part, fact, is }) => countFor(fact, is) > 0 || filter[part]);
  const choose = (fact: Chosen, value: Value) =>
    onFilter({ ...filter, chosen: { ...chosen, [fact]: toggled(chosen[fact] ?? [], value) } });
  const chooseTime = ({ key, from, to }: ChosenTime) => {
    const others = times.filter((one) => one.key !== key);
    onFilter({ ...filter, times: others.length < times.length ? others : [...times, { key, from, to }] });
  };
  const choosePile = (id: string, name: string) => {
    const others = inPiles.filter((one) => one.id !== id);
    onFilter({ ...filter, piles: others.length < inPiles.length ? others : [...inPiles, { id, name }] });
  };
  return (
    <aside aria-label="Filter" ref={first} className={styles.drawer}>
      <div className={styles.part}>
        <TextField
          // The filter's key goes here.
          id="filter-line"
          label="Words and facts, as in Find"
          placeholder="heron ≥4★ iso400 -blur"
          helperText={problem}
          error={problem !== undefined}
          value={filter.text ?? ''}
          onChange={(event) => onFilter({ ...filter, text: event.target.value })}
          fullWidth
          slotProps={{ htmlInput: { spellCheck: false }, inputLabel: { shrink: true } }}
        />
      </div>
      {children}
      <section className={styles.part}>
        <h2>Verdict</h2>
        {VERDICTS.map((verdict) => (
          <Choice
            key={verdict}
            pressed={verdicts.includes(verdict)}
            words={verdict}
            count={countFor('verdict', verdict)}
            onClick={() => {
              const next = toggled(verdicts, verdict);
              onFilter({ ...filter, verdicts: next.length === VERDICTS.length ? [] : next });
            }}
          />
        ))}
      </section>
      <section className={styles.part} aria-labelledby="filter-stars">
        <h2 id="filter-stars">Stars</h2>
        <div role="radiogroup" aria-labelledby="filter-stars" className={styles.kinds}>
          {(Object.keys(STARS_WORDS) as StarsKind[]).map((kind) => (
            <label key={kind}>
              <input
                type="radio"
                name="filter-stars-kind"
                checked={stars.kind === kind}
                // None chosen yet hides nothing; “any” forgets what was chosen.
                onChange={() =>
                  onFilter({ ...filter, stars: kind === 'any' ? NO_FILTER.stars : { ...stars, kind } })
                }
              />
              {STARS_WORDS[kind]}
            </label>
          ))}
        </div>
        {STARS_CHOICES.map((n) => (
          <Choice
            key={n}
            pressed={stars.kind !== 'any' && stars.n === n}
            words={n === 0 ? 'no stars' : `${n}★`}
            count={countFor('stars', n)}
            onClick={() =>
              onFilter({ ...filter, stars: { kind: stars.kind === 'any' ? 'is' : stars.kind, n } })
            }
          />
        ))}
      </section>
      {CHOSEN.map((fact) => {
        const values =
          fact === 'stage'
            ? stageValues
            : fact in changing
              ? changing[fact as Changing]
              : facets.values[fact];
        const its = chosen[fact] ?? [];
        // Before the first hand-off no frame has left the beginning.
        if (
          fact === 'stage' &&
          its.length === 0 &&
          values.every(({ value }) => !value || countFor(fact, value) === 0)
        )
          return null;
        // One value that all frames have tells none apart.
        if (values.length < 2 && its.length === 0) return null;
        return (
          <Foldable key={fact} title={TITLES[fact]} chosen={its.length} open={OPEN.includes(fact)}>
            {values.map(({ value, words }) => (
              <Choice
                key={String(value)}
                pressed={its.includes(value)}
                words={fact === 'label' && value !== null ? `${words} ${labels[words] ?? ''}` : words}
                count={countFor(fact, value)}
                onClick={() => choose(fact, value)}
              />
            ))}
          </Foldable>
        );
      })}
      {TIMES.map((stretch) => {
        const stretches = facets.times[stretch];
        const its = times.filter(({ key }) => key.length === (stretch === 'day' ? 10 : 13));
        if (stretches.length < 2 && its.length === 0) return null;
        return (
          <Foldable key={stretch} title={TITLES[stretch]} chosen={its.length} open={false}>
            {stretches.map((one) => (
              <Choice
                key={one.key}
                pressed={its.some(({ key }) => key === one.key)}
                words={one.words}
                count={countFor(stretch, one.key)}
                onClick={() => chooseTime(one)}
              />
            ))}
          </Foldable>
        );
      })}
      <Foldable title="Pile" chosen={inPiles.length} open={piles.length > 0}>
        {piles.map(({ id, name, number }) => (
          <Choice
            key={id}
            pressed={inPiles.some((one) => one.id === id)}
            words={number === null ? name : `${number} ${name}`}
            count={countFor('piles', id)}
            onClick={() => choosePile(id, name)}
          />
        ))}
        {piles.length > 0 && (
          <Choice
            pressed={inPiles.some((one) => one.id === '')}
            words="in no pile"
            count={countFor('piles', '')}
            onClick={() => choosePile('', '')}
          />
        )}
        <div className={styles.row}>
          <button type="button" className={styles.small} onClick={onPile}>
            Put into a pile …
          </button>
          {piles.length > 0 && (
            <TextLink to={`/piles/${inPiles[0]?.id || piles[0]!.id}`}>Over all shoots</TextLink>
          )}
        </div>
      </Foldable>
      {(countFor('note', 'with') > 0 || note !== null) && (
        <section className={styles.part}>
          <h2>Note</h2>
          {[true, false].map((is) => (
            <Choice
              key={String(is)}
              pressed={note === is}
              words={is ? 'with a note' : 'without'}
              count={countFor('note', is ? 'with' : '')}
              onClick={() => onFilter({ ...filter, note: note === is ? null : is })}
            />
          ))}
        </section>
      )}
      {truths.length > 0 && (
        <section className={styles.part}>
          <h2>Files</h2>
          {truths.map(({ part, fact, is, words }) => (
            <Choice
              key={part}
              pressed={filter[part] ?? false}
              words={words}
              count={countFor(fact, is)}
              onClick={() => onFilter({ ...filter, [part]: !filter[part] })}
            />
          ))}
        </section>
      )}
      <div className={styles.part}>
        <Button
          variant="outlined"
          color="inherit"
          fullWidth
          sx={{ mt: 1.5 }}
          onClick={() => onFilter(NO_FILTER)}
        >
          Show all {shoot.order.length}
        </Button>
      </div>
      {below}
    </aside>
  );
});

const toggled = <T,>(list: readonly T[], value: T): T[] =>
  list.includes(value) ? list.filter((one) => one !== value) : [...list, value];

function Foldable({
  title,
  chosen,
  open,
  children,
}: {
  title: string;
  /** how many of its values are chosen: then it is not folded away */
  chosen: number;
  open: boolean;
  children: ReactNode;
}) {
  return (
    <details className={styles.part} open={open || chosen > 0}>
      <summary data-chosen={chosen > 0 || undefined}>
        {title}
        {chosen > 0 && ` · ${chosen}`}
      </summary>
      {children}
    </details>
  );
}

function Choice({
  pressed,
  words,
  count,
  onClick,
}: {
  pressed: boolean;
  words: string;
  count: number;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      data-none={(count === 0 && !pressed) || undefined}
      className={styles.choice}
      onClick={onClick}
    >
      <span>{words}</span>
      <span className={styles.count}>{count}</span>
    </button>
  );
}
