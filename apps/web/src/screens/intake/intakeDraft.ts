import type { ClockCorrection, MetadataTemplate, SplitPart, SplitRule } from '@arkiv/core';
import type { Api } from '../../data/http';
import type { Naming } from '../../parts/PlanDialog';
import { firstDay, zoneOf, type ShootFields } from './draft';
import { fieldsOf, lastNumber, namingOf, proposedTitle, sharesOf } from './planWords';

/** All that is chosen and written for a card before it is taken in; kept while the window is open. */
export interface IntakeDraft {
  fields: ShootFields;
  /** the shoot that it goes into; empty: a new one */
  into: string;
  /** ids of the drives that get a copy */
  targets: readonly string[];
  /** names and folders of a new shoot */
  naming: Naming;
  /** its first number */
  start: number;
  template: MetadataTemplate | null;
  /** titles of the parts after the first, by their first frame */
  titles: Readonly<Record<string, string>>;
  /** keys of frames that stay on the card */
  leftOut: readonly string[];
  corrections: readonly ClockCorrection[];
  rule: SplitRule;
}

export type DraftAction =
  | { type: 'fields'; fields: ShootFields }
  | { type: 'into'; id: string }
  | { type: 'target'; id: string; on: boolean }
  | { type: 'naming'; naming: Naming; start: number }
  | { type: 'template'; template: MetadataTemplate | null }
  | { type: 'title'; key: string; title: string }
  | { type: 'leaveOut'; keys: readonly string[] }
  | { type: 'corrections'; corrections: readonly ClockCorrection[] }
  | { type: 'split'; rule: SplitRule };

/** What the archive says that a draft is begun from, and held against when it is come back to. */
export interface DraftGround {
  card: Api['CardDto'];
  settings: Api['SettingsDto'];
  volumes: readonly Api['VolumeDto'][];
  shoots: readonly Api['ShootDto'][];
}

const mayTake = ({ online, readOnly, role }: Api['VolumeDto']): boolean =>
  online && !readOnly && role !== 'edit';

export const newDraft = ({ card, settings, volumes, shoots }: DraftGround): IntakeDraft => ({
  fields: { title: proposedTitle(card, shoots), date: firstDay(card), client: '', place: '' },
  into: '',
  targets: volumes.filter(mayTake).map(({ id }) => id),
  naming: { pattern: settings.pattern, folders: settings.folders, seqBy: settings.seqBy },
  start: 1,
  template: settings.templates.find(({ id }) => id === settings.template) ?? null,
  titles: {},
  leftOut: [],
  corrections: [],
  rule: { by: 'none' },
});

/** A draft that was kept, without drives that can take nothing by now. */
export const heldDraft = (kept: IntakeDraft, { volumes }: DraftGround): IntakeDraft => ({
  ...kept,
  targets: kept.targets.filter((id) => volumes.some((v) => v.id === id && v.online && !v.readOnly)),
});

export function reduceDraft(draft: IntakeDraft, action: DraftAction): IntakeDraft {
  switch (action.type) {
    case 'fields':
      return { ...draft, fields: action.fields };
    case 'into':
      return { ...draft, into: action.id };
    case 'target': {
      const others = draft.targets.filter((id) => id !== action.id);
      return { ...draft, targets: action.on ? [...others, action.id] : others };
    }
    case 'naming':
      return { ...draft, naming: action.naming, start: action.start };
    case 'template':
      return { ...draft, template: action.template };
    case 'title':
      return { ...draft, titles: { ...draft.titles, [action.key]: action.title } };
    case 'leaveOut':
      return { ...draft, leftOut: action.keys };
    case 'corrections':
      return { ...draft, corrections: action.corrections };
    case 'split':
      return { ...draft, rule: action.rule };
  }
}

/** How the frames of a card are named: in the shoot that they go into as that one says, else as the draft says. */
export function namesIn(
  draft: Pick<IntakeDraft, 'naming' | 'start'>,
  shoot: Api['ShootDto'] | null,
  { card, shoots }: Pick<DraftGround, 'card' | 'shoots'>,
): { naming: Naming; seqStart: number; zoneMinutes: number } {
  const naming = shoot ? namingOf(shoot, draft.naming) : draft.naming;
  const first = draft.naming.seqBy === 'carried' ? lastNumber(shoots) : draft.start;
  return {
    naming,
    seqStart: shoot ? shoot.nextSeq : first,
    zoneMinutes: shoot?.zoneMinutes ?? zoneOf(card),
  };
}

/** A template without its own name: what frames get of it, the stars and the label they begin with among them. */
function textsOf({
  mode,
  fields,
  keywords,
  persons,
  stars,
  label,
}: MetadataTemplate): Api['TemplateTextsDto'] {
  return {
    ...{ mode, fields, keywords, ...(persons && { persons }) },
    ...(stars !== undefined && { stars }),
    ...(label !== undefined && { label }),
  } as Api['TemplateTextsDto'];
}

/** What the server is asked to do: the draft as it stands, whether its plan is shown yet or not. It is checked anew there. */
export function intakeRequest(
  draft: IntakeDraft,
  {
    readerId,
    card,
    shoots,
    shoot,
    parts,
    known,
  }: Pick<DraftGround, 'card' | 'shoots'> & {
    readerId: string;
    shoot: Api['ShootDto'] | null;
    parts: readonly SplitPart[];
    /** keys of frames that are probably archived */
    known: readonly string[];
  },
): Api['StartIntakeDto'] {
  const { template, leftOut, corrections, targets } = draft;
  const out = new Set(leftOut);
  const { naming, seqStart, zoneMinutes } = namesIn(draft, shoot, { card, shoots });
  const [first, ...others] = sharesOf(parts, shoot ? fieldsOf(shoot) : draft.fields, draft.titles);
  return {
    ...first!.fields,
    ...(shoot && { shootId: shoot.id }),
    corrections: [...corrections],
    leaveOut: [...leftOut],
    known: known.filter((key) => !out.has(key)),
    more: others.map(({ fields, part }) => ({
      ...fields,
      keys: part!.keys.filter((key) => !out.has(key)),
    })),
    ...(template && { template: textsOf(template) }),
    readerId,
    fingerprint: card.fingerprint,
    pattern: naming.pattern,
    folders: naming.folders,
    seqBy: naming.seqBy,
    seqStart,
    zoneMinutes,
    targets: [...targets],
  } as Api['StartIntakeDto'];
}
