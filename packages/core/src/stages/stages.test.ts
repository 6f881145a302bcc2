import { UNMARKED } from '../marks/marks';
import type { QueryFrame } from '../query/fields';
import { matches } from '../query/filter';
import { lineFilter, partsOfLine } from '../query/line';
import {
  DEFAULT_STAGES,
  stageAt,
  stageCounts,
  stageFilter,
  stageIdFor,
  stagesProblem,
  tiedMark,
  type Stage,
} from './stages';

const keeper = { field: 'verdict', is: 'keep' } as const;
const frame = (stage: string | null, verdict: 'keep' | 'undecided' = 'keep') =>
  ({ ...UNMARKED, stage, verdict }) as unknown as QueryFrame;

describe('the stages of keepers', () => {
  const keepers = [frame(null), frame('editing'), frame('ready'), frame('ready'), frame('long-gone')];

  it('count all keepers, those of which nothing or nothing known was said at the first', () => {
    expect(stageCounts(keepers, DEFAULT_STAGES)).toEqual([2, 1, 0, 2]);
    expect(stageAt('nearly', DEFAULT_STAGES)).toBe(2);
  });

  it('are asked for as they are counted, and by a line in the studio’s words', () => {
    for (const [i, { id, name }] of DEFAULT_STAGES.entries()) {
      const wanted = stageCounts(keepers, DEFAULT_STAGES)[i];
      const found = (filter: Parameters<typeof matches>[0]) =>
        [...keepers, frame(null, 'undecided')].filter((its) => matches(filter, its)).length;
      expect(found(stageFilter(id, DEFAULT_STAGES, keeper))).toBe(wanted);
      const line = (text: string) => partsOfLine(text, { stages: DEFAULT_STAGES });
      expect(found(lineFilter(line(`stage:"${name}"`)))).toBe(wanted);
      expect(found(lineFilter(line(`stage:${id}`)))).toBe(wanted);
    }
    const both = partsOfLine('stage:editing|ready', { stages: DEFAULT_STAGES });
    expect(keepers.filter((its) => matches(lineFilter(both), its))).toHaveLength(3);
    expect(partsOfLine('stage:printed', { stages: DEFAULT_STAGES })[0]!.problem).toContain('printed');
  });

  it('are a list of a studio’s own, with a name and an id for each', () => {
    expect(stagesProblem(DEFAULT_STAGES)).toBeNull();
    const [first, ...rest] = DEFAULT_STAGES as [Stage, ...Stage[]];
    expect(stagesProblem([])).toContain('one stage');
    expect(stagesProblem([first, { ...first, id: 'b', name: 'To Edit' }])).toContain('To Edit');
    expect(stagesProblem([first, { ...rest[0]!, id: first.id }])).toContain(first.id);
    expect(stagesProblem([{ ...first, id: 'To edit' }])).toContain('To edit');
    expect(stagesProblem([{ ...first, by: 'handoff' }])).toContain('first stage');
    expect(stagesProblem([first, rest[0]!, { ...rest[1]!, by: 'handoff' }])).toContain('one stage');
    const labelled = rest.map((stage) => ({ ...stage, label: 'M' as const }));
    expect(stagesProblem([first, ...labelled])).toContain('two stages');
    expect(stagesProblem([{ ...first, name: ' ' }])).toContain('name');
    expect(stageIdFor('Für den Druck!', [])).toBe('fur-den-druck');
    expect(stageIdFor('Ready', DEFAULT_STAGES)).toBe('ready-2');
    expect(stageIdFor('仕上げ', [])).toBe('stage');
  });
});

describe('a label that says a stage', () => {
  const stages = DEFAULT_STAGES.map((stage) => ({
    ...stage,
    label: ({ editing: 'B', ready: 'M' } as const)[stage.id] ?? null,
  })) as Stage[];
  const said = (
    kind: 'stage' | 'label',
    from: string | null,
    stage: string | null,
    label: 'A' | 'B' | 'M' | null,
  ) => tiedMark({ kind, from }, { stage, label }, stages);

  it('is given with the stage, and taken off with it', () => {
    expect(said('stage', null, 'editing', null)).toEqual({ kind: 'label', to: 'B' });
    expect(said('stage', 'editing', 'nearly', 'B')).toEqual({ kind: 'label', to: null });
    expect(said('stage', 'editing', 'ready', 'B')).toEqual({ kind: 'label', to: 'M' });
    // A label that says no stage is the photographer's own.
    expect(said('stage', 'nearly', 'to-edit', 'A')).toBeNull();
    expect(said('stage', 'editing', 'editing', 'B')).toBeNull();
  });

  it('brings the frame to its stage, whoever gave it', () => {
    expect(said('label', null, null, 'M')).toEqual({ kind: 'stage', to: 'ready' });
    expect(said('label', 'M', 'ready', null)).toBeNull();
    expect(said('label', null, 'ready', 'A')).toBeNull();
    expect(tiedMark({ kind: 'stars', from: 0 }, { stage: null, label: 'M' }, stages)).toBeNull();
  });
});
