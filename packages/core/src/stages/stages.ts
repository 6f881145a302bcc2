import { isStageId } from '../marks/stageId';
import type { Filter } from '../query/filter';
import { LABELS, type Label, type MarkKind, type MarkValue, type Marks } from '../marks/marks';

/** What brings keepers to a stage by itself. */
export const STAGE_BY = ['handoff', 'return'] as const;
export type StageBy = (typeof STAGE_BY)[number];

/** Where a keeper stands between hand-off and delivery, in the studio's own words. */
export interface Stage {
  /** what frames keep of it: it stays when the words change */
  id: string;
  name: string;
  /** the label that says the same: who gives the one gives the other; null: none does */
  label: Label | null;
  /**
   * what brings keepers here by itself: that they were handed off, from the first stage; that an edit of them came back, from any before
   * this one; null: nothing does
   */
  by: StageBy | null;
}

/** What a studio begins with; it words, orders, adds and takes away as it likes. */
export const DEFAULT_STAGES: readonly Stage[] = [
  { id: 'to-edit', name: 'to edit', label: null, by: null },
  { id: 'editing', name: 'being edited', label: null, by: 'handoff' },
  { id: 'nearly', name: 'nearly done', label: null, by: 'return' },
  { id: 'ready', name: 'ready', label: null, by: null },
];

/** Stages of a studio: one says where a frame is, two whether it is done; more than a dozen headings nobody looks over. */
export const STAGES_AT_LEAST = 1;
export const STAGES_AT_MOST = 12;
/** Characters of a stage's name: what fits over a column and into a sentence. */
export const LONGEST_STAGE = 40;

/** An id for a new stage, made from its name, that none of the others has. */
export function stageIdFor(name: string, others: readonly Pick<Stage, 'id'>[]): string {
  const base =
    name
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 30) || 'stage';
  const taken = new Set(others.map(({ id }) => id));
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}

const BROUGHT: readonly [StageBy, string][] = [
  ['handoff', 'Hand-off'],
  ['return', 'Coming back'],
];

/**
 * What is wrong with a list of stages; null: nothing. Names and ids are each there once, and no label says two of them.
 */
export function stagesProblem(stages: readonly Stage[]): string | null {
  if (stages.length < STAGES_AT_LEAST) return 'There must be one stage at least.';
  if (stages.length > STAGES_AT_MOST) return `There may be ${STAGES_AT_MOST} stages at most.`;
  const names = new Set<string>();
  const ids = new Set<string>();
  const labels = new Set<Label>();
  if (stages[0]!.by !== null)
    return 'At the first stage keepers stand from the beginning: nothing brings them there.';
  for (const [what, words] of BROUGHT)
    if (stages.filter(({ by }) => by === what).length > 1) return `${words} brings keepers to one stage.`;
  for (const { id, name, label } of stages) {
    if (!isStageId(id)) return `“${id}” is no id of a stage.`;
    if (name.trim() !== name || name === '') return 'Each stage needs a name.';
    if (name.length > LONGEST_STAGE)
      return `“${name}” is too long: ${LONGEST_STAGE} characters are the most.`;
    if (names.has(name.toLowerCase())) return `Two stages are called “${name}”.`;
    if (ids.has(id)) return `Two stages have the id “${id}”.`;
    if (label !== null && !LABELS.includes(label)) return `“${String(label)}” is no label.`;
    if (label !== null && labels.has(label)) return `The label ${label} is said to mean two stages.`;
    names.add(name.toLowerCase());
    ids.add(id);
    if (label !== null) labels.add(label);
  }
  return null;
}

/** At which of the stages a keeper stands: the first, where nothing was said, or what was said is no stage any more. */
export function stageAt(said: string | null, stages: readonly Pick<Stage, 'id'>[]): number {
  const at = said === null ? -1 : stages.findIndex(({ id }) => id === said);
  return Math.max(0, at);
}

/** How many of some keepers stand at each stage: they add up to them. */
export function stageCounts(
  keepers: Iterable<Pick<Marks, 'stage'>>,
  stages: readonly Pick<Stage, 'id'>[],
): number[] {
  const counts = stages.map(() => 0);
  for (const { stage } of keepers) counts[stageAt(stage, stages)]! += 1;
  return counts;
}

/** The frames at a stage. At the first are all keepers of which nothing else was said. */
export function stageFilter(id: string, stages: readonly Pick<Stage, 'id'>[], keeper: Filter): Filter {
  if (stageAt(id, stages) > 0) return { all: [keeper, { field: 'stage', is: id }] };
  const others = stages.slice(1).map((other) => other.id);
  return { all: [keeper, { not: { field: 'stage', oneOf: others } }] };
}

/**
 * What else is to be said of a frame whose stage or label was said, where the studio ties them to each other: the label of the stage, or
 * the stage of the label. `marks`: as they are after it, `from`: what was there before.
 */
export function tiedMark(
  { kind, from }: { kind: MarkKind; from: MarkValue },
  marks: Pick<Marks, 'stage' | 'label'>,
  stages: readonly Stage[],
): { kind: 'stage' | 'label'; to: string | null } | null {
  if (kind === 'stage') {
    const now = stages.find(({ id }) => id === marks.stage)?.label ?? null;
    const before = stages.find(({ id }) => id === from)?.label ?? null;
    // A label that means no stage is a word of its own, and stays until another stage has one.
    const to = now ?? (marks.label === before ? null : marks.label);
    return to === marks.label ? null : { kind: 'label', to };
  }
  if (kind !== 'label') return null;
  const meant = stages.find(({ label }) => label !== null && label === marks.label);
  return !meant || meant.id === marks.stage ? null : { kind: 'stage', to: meant.id };
}
