import {
  collisionKey,
  folderOwner,
  numberAfter,
  placesOf,
  planIntake,
  type IntakePlan,
  type NameFacts,
  type SplitPart,
} from '@arkiv/core';
import type { Api } from '../../data/http';
import type { Naming } from '../../parts/PlanDialog';

/** What a shoot is called and where it belongs. */
export interface ShootFields {
  title: string;
  date: string;
  client: string;
  place: string;
}

export interface DraftInput {
  card: Api['CardDto'];
  settings: Api['SettingsDto'];
  leftOut: ReadonlySet<string>;
  /** keys of frames that are probably archived */
  known: readonly string[];
  naming: Naming;
  seqStart: number;
  zoneMinutes: number;
  /** other shoots, as far as they are known: each has its folders for itself */
  others: readonly Pick<Api['ShootDto'], 'title' | 'folders'>[];
}

/** One shoot's share of the card with what it is called. */
export interface DraftPart {
  fields: ShootFields;
  /** null: all frames that are taken in */
  part: SplitPart | null;
  /** files of no frame go with this one */
  extras: boolean;
}

/** The plan of each part; a later one makes way for the places that an earlier one fills. */
export function draftParts(input: DraftInput, parts: readonly DraftPart[]): IntakePlan[] {
  const taken = new Set<string>();
  let { seqStart } = input;
  let owner = folderOwner(input.others);
  return parts.map(({ fields, part, extras }) => {
    const keys = part && new Set(part.keys);
    const frames = input.card.frames.filter(
      (f) => !input.leftOut.has(f.key) && (keys === null || keys.has(f.key)),
    );
    const here = new Set(frames.map((f) => f.key));
    const plan = planIntake(
      {
        frames,
        extras: extras ? input.card.extras : [],
        shoot: fields,
        creator: input.settings.creator,
        card: input.card.card,
        pattern: input.naming.pattern,
        folders: input.naming.folders,
        seqBy: input.naming.seqBy,
        seqStart,
        known: input.known.filter((key) => here.has(key)),
        zoneMinutes: input.zoneMinutes,
        dayStartHour: input.settings.dayStartHour,
        owner,
      },
      (to) => taken.has(collisionKey(to)),
    );
    for (const to of placesOf(plan)) taken.add(collisionKey(to));
    owner = folderOwner([{ title: fields.title, folders: plan.folders }], owner);
    if (input.naming.seqBy === 'carried') seqStart = numberAfter(plan, seqStart);
    return plan;
  });
}

/** Several plans as one: what is shown, counted and checked before anything happens. */
export function joined(plans: readonly IntakePlan[]): IntakePlan {
  return {
    items: plans.flatMap((p) => p.items),
    frames: plans.flatMap((p) => p.frames),
    folders: [...new Set(plans.flatMap((p) => p.folders))],
    problems: plans.flatMap((p) => p.problems),
    warnings: plans.flatMap((p) => p.warnings),
    bytes: plans.reduce((sum, p) => sum + p.bytes, 0),
  };
}

/** What a metadata template's fields stand for, for the card's first frame that is taken in. */
export function sampleFacts(input: DraftInput, fields: ShootFields): { facts: NameFacts; camera: Camera } {
  const frame = input.card.frames.find((f) => !input.leftOut.has(f.key));
  return {
    facts: {
      shoot: fields.title,
      client: fields.client,
      place: fields.place,
      creator: input.settings.creator,
      card: input.card.card,
      capture: frame?.facts.capture ?? null,
      seq: input.seqStart,
      original: frame?.base ?? '',
      body: frame?.facts.model ?? '',
      serial: frame?.facts.serial ?? '',
      stars: 0,
    },
    camera: {
      creator: frame?.facts.creator ?? null,
      rights: frame?.facts.rights ?? null,
      caption: frame?.facts.caption ?? null,
    },
  };
}

interface Camera {
  creator: string | null;
  rights: string | null;
  caption: string | null;
}

export function firstDay(card: Api['CardDto']): string {
  const days = card.frames.flatMap((f) => f.facts.capture?.local.slice(0, 10) ?? []).sort();
  return days[0] ?? new Date().toISOString().slice(0, 10);
}

/** The zone for cameras that wrote none: the first one written on the card, else this computer's. */
export function zoneOf(card: Api['CardDto']): number {
  const written = card.frames.find((f) => f.facts.capture?.offsetMinutes != null)?.facts.capture
    ?.offsetMinutes;
  return written ?? -new Date().getTimezoneOffset();
}
