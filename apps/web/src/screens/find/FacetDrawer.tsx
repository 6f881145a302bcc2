import { formatWords, lineValue, type Label, type Stage } from '@arkiv/core';
import { memo, type ReactNode } from 'react';
import { count } from '../../data/format';
import type { Api } from '../../data/http';
import styles from '../cull/FilterDrawer.module.css';

type Facet = Api['FoundFacetDto'];

interface Props {
  facets: readonly Facet[];
  /** all of the line, so that what is asked already is told from what could be */
  line: string;
  labels: Readonly<Record<string, string>>;
  stages: readonly Stage[];
  piles: readonly Api['PileDto'][];
  albums: readonly { id: string; name: string }[];
  drives: readonly { id: string; name: string }[];
  /** a part of a line is to be asked for too, or no longer */
  onPart: (part: string) => void;
  children?: ReactNode;
}

interface Told {
  title: string;
  /** open from the start */
  open?: boolean;
  /** what a value is called */
  words?: (value: string | number) => string;
  /** whether a value is still there; missing: all are */
  known?: (value: string | number) => boolean;
  /** the part of a line that asks for it */
  part: (value: string | number) => string;
  /** what frames without one are called, and asked for by; missing: they are not offered */
  none?: [words: string, part: string];
}

const exact = (field: string) => (value: string | number) => `${field}=${lineValue(String(value))}`;

/** In the order in which they are offered: what tells years and jobs apart before what tells frames. */
function told({
  labels,
  stages,
  piles,
  albums,
  drives,
}: Pick<Props, 'labels' | 'stages' | 'piles' | 'albums' | 'drives'>): Readonly<Record<string, Told>> {
  const named = (list: readonly { id: string; name: string }[]) => (id: string | number) =>
    list.find((one) => one.id === id)?.name ?? 'gone';
  return {
    verdict: { title: 'Verdict', open: true, part: (value) => String(value) },
    stars: {
      ...{ title: 'Stars', open: true, words: (n) => (n === 0 ? 'no stars' : `${n}★`) },
      part: (n) => `${n}★`,
    },
    year: { title: 'Year', open: true, part: String },
    client: { title: 'Client', part: exact('client') },
    place: { title: 'Place', part: exact('place') },
    shoot: { title: 'Shoot', part: exact('shoot') },
    keywords: { title: 'Keywords', open: true, part: exact('keyword') },
    persons: { title: 'Persons shown', part: exact('person') },
    label: {
      ...{ title: 'Label', words: (label) => `${label} ${labels[label as Label] ?? ''}` },
      ...{ part: (label) => `label:${label}`, none: ['no label', 'label:none'] },
    },
    stage: {
      ...{ title: 'Stage', words: named(stages), part: (id) => `stage:${id}` },
      // At the first stand those too of which nothing was said, which no frame keeps.
      known: (id) => stages.findIndex((stage) => stage.id === id) > 0,
    },
    piles: { title: 'Pile', words: named(piles), part: (id) => exact('pile')(named(piles)(id)) },
    albums: {
      ...{ title: 'Album', words: named(albums), part: (id) => exact('album')(named(albums)(id)) },
      known: (id) => albums.some((album) => album.id === id),
    },
    delivered: { title: 'Delivered', part: () => 'delivered:any', none: ['not delivered', 'delivered:none'] },
    drives: { title: 'Drive', words: named(drives), part: (id) => exact('drive')(named(drives)(id)) },
    body: { title: 'Body', part: exact('body') },
    lens: { title: 'Lens', part: exact('lens') },
    aperture: { title: 'Aperture', words: (n) => `f/${n}`, part: (n) => `f/${n}` },
    exposure: {
      title: 'Shutter time',
      words: (n) => `${shutter(Number(n))} s`,
      part: (n) => (Number(n) < 1 ? shutter(Number(n)) : `${n}s`),
    },
    iso: { title: 'ISO', part: (n) => `iso${n}` },
    focalLength: {
      title: 'Focal length',
      words: (n) => `${Math.round(Number(n))} mm`,
      part: (n) => `${n}mm`,
    },
    formats: {
      title: 'Format',
      words: (format) => formatWords(String(format)),
      part: (format) => `format:${format}`,
    },
    role: {
      title: 'Kind',
      words: (role) => (role === 'clip' ? 'clip' : 'picture'),
      part: (role) => `kind:${role}`,
    },
    detail: { title: 'Detail', part: (detail) => `detail=${detail}` },
    advice: { title: 'Advice', part: exact('advice'), none: ['none', 'advice:none'] },
    voice: { title: 'Voice note', part: () => 'voice:any' },
    edited: { title: 'Edits', part: () => 'edited:any' },
    finished: { title: 'Finishing', part: () => 'finished:any' },
    sign: { title: 'Files', part: exact('sign') },
  };
}

const shutter = (seconds: number): string => (seconds < 1 ? `1/${Math.round(1 / seconds)}` : String(seconds));

/** The one drawer of Find: what of the found frames there is, with counts; each value is a part of the line at a click. */
export const FacetDrawer = memo(function FacetDrawer(props: Props) {
  const { facets, line, onPart, children } = props;
  const all = told(props);
  const asked = ` ${line} `;
  return (
    <aside aria-label="What was found, by its facts" className={styles.drawer}>
      {Object.entries(all).map(([fact, its]) => {
        const facet = facets.find((one) => one.fact === fact);
        if (!facet) return null;
        const known = facet.counts.filter(
          ({ value }) => value !== null && (its.known?.(value as string | number) ?? true),
        );
        const none = its.none ? facet.counts.find(({ value }) => value === null) : undefined;
        const isAsked = known.some(({ value }) => asked.includes(` ${its.part(value as string)} `));
        // One value that all have tells none apart.
        if (known.length + (none ? 1 : 0) < 2 && !isAsked) return null;
        return (
          <details key={fact} className={styles.part} open={its.open || isAsked || undefined}>
            <summary>{its.title}</summary>
            {known.map(({ value, count: frames }) => (
              <Choice
                key={String(value)}
                words={its.words ? its.words(value as string | number) : String(value)}
                part={its.part(value as string | number)}
                frames={frames}
                asked={asked}
                onPart={onPart}
              />
            ))}
            {none && its.none && (
              <Choice
                words={its.none[0]}
                part={its.none[1]}
                frames={none.count}
                asked={asked}
                onPart={onPart}
              />
            )}
            {facet.more > 0 && <p className={styles.hint}>and {count(facet.more)} others: type one</p>}
          </details>
        );
      })}
      {children}
    </aside>
  );
});

function Choice({
  words,
  part,
  frames,
  asked,
  onPart,
}: {
  words: string;
  part: string;
  frames: number;
  asked: string;
  onPart: (part: string) => void;
}) {
  return (
    <button
      type="button"
      aria-pressed={asked.includes(` ${part} `)}
      className={styles.choice}
      onClick={() => onPart(part)}
    >
      <span>{words}</span>
      <span className={styles.count}>{count(frames)}</span>
    </button>
  );
}
