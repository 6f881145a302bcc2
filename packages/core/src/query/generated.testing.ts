// Frames and filters for holding the ways of reading a filter against each other: on frames, as SQL, on columns in memory.
import fc from 'fast-check';
import { correctedLocal } from '../time/captureTime';
import { columnsOf, FINISHED, QUERY_FIELDS, takenOf, type QueryFrame } from './fields';
import type { Filter } from './filter';

/** A frame as a database keeps it, and the shoot it is in, of {@link SHOOTS}. */
export interface GeneratedFrame extends QueryFrame {
  shootId: string;
  local: string | null;
  millis: number;
  correctionMillis: number;
}

export const SHOOTS = [
  { id: 's1', title: 'Été at the pier', client: 'Ockham Trust', place: '', date: '2029-04-18' },
  { id: 's2', title: 'Grey heron 2', client: '', place: 'Öckham', date: '2030-01-01' },
] as const;

/** Frames and filters over few values, so that they meet: with accents, folds, missing facts and joined formats. */
export function generated(): { pool: fc.Arbitrary<GeneratedFrame>; filters: fc.Arbitrary<Filter> } {
  const TEXTS: Record<string, readonly string[]> = {
    name: ['Straße_1', 'ÉTÉ_2', 'plain_3', 'bow_4'],
    original: ['OCK_0001', 'OCK_0002', 'ete'],
    verdict: ['keep', 'reject', 'undecided'],
    label: ['A', 'M'],
    stage: ['to-edit', 'ready'],
    body: ['Ockham Five', 'Öckham Six'],
    lens: ['50 mm', 'été 85'],
    role: ['original', 'clip'],
    format: ['jpeg', 'dng+jpeg', 'dng', 'heic+jpegx', 'mp4'],
    raw: ['none', 'only', 'pair'],
    sign: ['incomplete file'],
    detail: ['full', 'embedded'],
    voice: ['voice note'],
    edited: ['edited'],
    finish: ['', 'exposure=0.5', 'angle=-1.25,mono=plain'],
    piles: ['', 'P1', 'P2', 'P1+P2', 'P12+P2'],
    albums: ['', 'A1:a0', 'A2:Zz', 'A1:a1+A2:a0V', 'A12:a0+A2:a5'],
    advice: ['', 'soft', 'soft+shaken', 'over-exposed+tilted'],
    caption: ['Été at the pier', 'two\nlines'],
    keywords: ['', 'heron', 'grey heron\nfish', 'fish\nHeron', 'fish + chips'],
    persons: ['', 'Ana Pinto', 'Bo\nAna Pinto'],
    note: ['Été, brighter', '[41.2 % 30 %] dust 白鷺'],
    shootId: ['s1', 's2'],
    lies: ['2029/pier/originals', '2029/pier/originals/Proofs'],
    drives: ['', 'D1', 'D1+D2', 'D12'],
    delivered: ['delivered'],
    local: ['2029-04-18T09:14:07', '2029-12-31T23:59:59', '2030-01-01T00:00:00'],
    texts: ['', '{"headline":"Été at the pier"}', '{"credit":"two\\nlines","city":"Öckham"}'],
  };
  const NUMBERS: Record<string, readonly number[]> = {
    stars: [0, 1, 2, 3, 4, 5],
    instant: [-1, 0, 1_900_000_000_000],
    aperture: [1.4, 2.8, 4],
    exposure: [0.001, 0.5],
    iso: [100, 400, 6400],
    focalLength: [24, 50.5],
    sharpness: [0, 41.5],
    millis: [0, 999],
    correctionMillis: [0, 1, -500, 3_600_000],
  };
  const always = [
    'name',
    'original',
    'verdict',
    'stars',
    'role',
    'format',
    'raw',
    'piles',
    'albums',
    'advice',
    'keywords',
    'persons',
    'texts',
    'finish',
    'shootId',
    'lies',
    'drives',
    'millis',
    'correctionMillis',
  ];
  const facts = Object.entries({ ...TEXTS, ...NUMBERS }).map(([fact, values]) => {
    const known = fc.constantFrom<string | number | null>(...values);
    return [fact, always.includes(fact) ? known : fc.option(known, { nil: null })];
  });
  const pool = fc.record(Object.fromEntries(facts)) as unknown as fc.Arbitrary<GeneratedFrame>;
  const asked = [...Object.values(TEXTS).flat(), 'x', 'ock', 'E', 'headline', ''];
  const words = [
    ...asked,
    'ete pier',
    'heron',
    'fish her',
    'two lines',
    '1',
    '白鷺',
    '鷺',
    'ockham ete',
    'pier été',
    'dust',
  ];
  const SETS: Record<string, readonly string[]> = {
    formats: ['jpeg', 'dng', 'png', 'jpe'],
    piles: ['P1', 'P2', 'P12', 'P'],
    albums: ['A1', 'A2', 'A12', 'A'],
    advice: ['soft', 'shaken', 'exposed', 'tilted'],
    keywords: ['heron', 'fish', 'grey heron', 'chips', 'grey'],
    persons: ['Ana Pinto', 'Bo', 'Ana'],
    drives: ['D1', 'D2', 'D'],
  };
  TEXTS.shoot = SHOOTS.map(({ title }) => title);
  TEXTS.client = ['Ockham Trust', ''];
  TEXTS.place = ['Öckham'];
  TEXTS.finished = ['finished'];
  NUMBERS.taken = [202904180914, 202912312359, 203001010000, 203001010059];
  // Drives come and go: which are away is no fact that a frame keeps.
  const kept = Object.entries(QUERY_FIELDS).filter(([field]) => field !== 'away');
  const leaf = fc.constantFrom(...kept).chain(([field, info]) => {
    const { type } = info;
    const text = fc.constantFrom(...(type === 'set' ? SETS[field]! : (TEXTS[field] ?? asked)));
    const number = fc.constantFrom(...(NUMBERS[field] ?? [0]), 3);
    const value: fc.Arbitrary<string | number> = type === 'number' ? number : text;
    const kinds: fc.Arbitrary<object>[] = [fc.constant({ none: true })];
    if (type !== 'words')
      kinds.push(
        value.map((is) => ({ is })),
        fc.array(value, { maxLength: 3 }).map((oneOf) => ({ oneOf })),
      );
    if (type !== 'number' && type !== 'set')
      kinds.push(fc.constantFrom(...asked).map((contains) => ({ contains })));
    if (type === 'text' || type === 'choice')
      kinds.push(
        fc
          .constantFrom(...asked, '2029', '2029/pier', '2029/pier/original', '2029/pier/originals')
          .map((within) => ({ within })),
      );
    if (type !== 'number' && columnsOf(info).length > 0)
      kinds.push(
        ...(['word', 'begins', 'phrase'] as const).map((condition) =>
          fc.constantFrom(...words).map((its) => ({ [condition]: its })),
        ),
      );
    if (type === 'number')
      kinds.push(
        number.map((atLeast) => ({ atLeast })),
        number.map((atMost) => ({ atMost })),
        fc.tuple(number, number).map((between) => ({ between })),
      );
    return fc.oneof(...kinds).map((condition) => ({ field, ...condition }) as Filter);
  });
  const { filter } = fc.letrec<{ filter: Filter }>((tie) => ({
    filter: fc.oneof(
      { maxDepth: 4, depthSize: 'small' },
      leaf,
      fc.record({ not: tie('filter') }),
      fc.array(tie('filter'), { maxLength: 3 }).map((all) => ({ all })),
      fc.array(tie('filter'), { maxLength: 3 }).map((any) => ({ any })),
    ) as fc.Arbitrary<Filter>,
  }));
  return { pool, filters: filter };
}

/** A generated frame as filters see it, with what is its shoot's. */
export function whole({ shootId, local, millis, correctionMillis, ...frame }: GeneratedFrame): QueryFrame {
  const { title, client, place } = SHOOTS.find(({ id }) => id === shootId)!;
  const time =
    local === null ? null : correctedLocal({ local, millis, offsetMinutes: null, correctionMillis });
  const finished = frame.finish === '' ? null : FINISHED;
  const ofShoot = { shoot: title, client: client || null, place: place || null };
  return { ...frame, ...ofShoot, taken: takenOf(time), finished };
}
