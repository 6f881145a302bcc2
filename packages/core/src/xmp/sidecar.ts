import type { Document, Element } from '@xmldom/xmldom';
import { EMPTY_DESCRIPTION, type Description } from '../description/description';
import { hasKeyword } from '../description/keywords';
import { isNote } from '../marks/note';
import { finishOf, finishText } from '../finishing/values';
import { isStageId } from '../marks/stageId';
import { isCorrection } from '../takes/correction';
import { saidIn } from '../description/texts';
import type { MarkField, Marks, Verdict, WordSet } from '../marks/marks';
import { setForeign } from './foreign';
import { readKeywordTree, writeKeywordTree } from './keywordTree';
import {
  append,
  children,
  defaultItem,
  firstItem,
  home,
  items,
  NS,
  parse,
  prefixFor,
  propertyElements,
  serialise,
  setAlternative,
  setList,
  setSimple,
  SidecarError,
  simple,
  SKELETON,
  type Prefix,
} from './packet';
import { readCollections } from './collections';

export { MAX_SIDECAR_BYTES, SidecarError } from './packet';

/** What Arkiv keeps in a frame's sidecar. Null: the property is absent. */
export interface SidecarModel extends Description {
  frameId: string | null;
  /** id of the frame that it is a copy of; null: of none */
  derivedFrom: string | null;
  verdict: Verdict;
  /** 0…5; kept in our own namespace while the frame is a reject */
  stars: number;
  /** the label's text, as the studio words it */
  label: string | null;
  /** words to whoever edits the frame; see `Note` */
  note: string | null;
  /** id of the stage at which it stands; null: none was said */
  stage: string | null;
  /** what was said of its place among takes; null: nothing */
  take: string | null;
  /** how it is finished, see `finishText`; null: as it is */
  finish: string | null;
  /** what `xmp:Rating` and `xmp:Label` say of a keeper that has no stars and no label, for programs that know no verdict */
  saidStars: number | null;
  saidLabel: string | null;
  preservedFileName: string | null;
  /** where keywords stand in a tree, each from the top down */
  keywordTree: string[][];
  /** milliseconds added to the camera's time; null: none */
  clockCorrection: number | null;
  /** ISO 8601 */
  metadataDate: string | null;
}

export const EMPTY_SIDECAR: Readonly<SidecarModel> = {
  frameId: null,
  verdict: 'undecided',
  stars: 0,
  label: null,
  note: null,
  stage: null,
  take: null,
  finish: null,
  saidStars: null,
  saidLabel: null,
  preservedFileName: null,
  derivedFrom: null,
  keywordTree: [],
  clockCorrection: null,
  metadataDate: null,
  ...EMPTY_DESCRIPTION,
};

/** `collections`: names of those that the picture is in; none of ours are ever written. */
export type SidecarResult =
  { ok: true; model: SidecarModel; collections: string[] } | { ok: false; reason: string };

/** Reads a sidecar (XMP, ISO 16684-1, RDF/XML). Unknown content is not an error; text that is no XML is. */
export function readSidecar(text: string): SidecarResult {
  try {
    const document = parse(text);
    return { ok: true, model: modelOf(document), collections: readCollections(document) };
  } catch (error) {
    if (error instanceof SidecarError) return { ok: false, reason: error.message };
    throw error;
  }
}

/**
 * The text of a sidecar with this model. `existing` is the text that lies on disk: everything in it that is not
 * ours stays as it is, or becomes what `foreign` holds (see {@link Foreign}). Throws {@link SidecarError} when `existing` cannot be read: it must not be overwritten.
 */
export function writeSidecar(model: SidecarModel, existing?: string, foreign?: string): string {
  const document = parse(existing ?? SKELETON);
  if (foreign !== undefined) setForeign(document, foreign);
  setSimple(document, 'arkiv', 'frame', model.frameId);
  setSimple(document, 'arkiv', 'derivedFrom', model.derivedFrom);
  const rejected = model.verdict === 'reject';
  // Given stars are the frame's own: nothing is said in their place.
  const saidStars = rejected || model.stars > 0 ? null : model.saidStars;
  const saidLabel = model.label === null ? model.saidLabel : null;
  const unmarked =
    !rejected && model.stars === 0 && saidStars === null && simple(document, 'xmp', 'Rating') === null;
  const rating = rejected ? '-1' : String(saidStars ?? model.stars);
  setSimple(document, 'xmp', 'Rating', unmarked ? null : rating);
  const own = (rejected && model.stars > 0) || saidStars !== null;
  setSimple(document, 'arkiv', 'stars', own ? String(model.stars) : null);
  setSimple(document, 'arkiv', 'saidStars', saidStars === null ? null : String(saidStars));
  setSimple(document, 'xmp', 'Label', model.label ?? saidLabel);
  setSimple(document, 'arkiv', 'saidLabel', saidLabel);
  setSimple(
    document,
    'xmpDM',
    'good',
    model.verdict === 'undecided' ? null : model.verdict === 'keep' ? 'True' : 'False',
  );
  setSimple(document, 'arkiv', 'note', model.note);
  setSimple(document, 'arkiv', 'stage', model.stage);
  setSimple(document, 'arkiv', 'take', model.take);
  setSimple(document, 'arkiv', 'finish', model.finish);
  setSimple(document, 'xmpMM', 'PreservedFileName', model.preservedFileName);
  setSimple(document, 'xmp', 'MetadataDate', model.metadataDate);
  setSimple(
    document,
    'arkiv',
    'clockCorrection',
    model.clockCorrection ? String(model.clockCorrection) : null,
  );
  writeDescription(document, model);
  writeKeywordTree(document, model);
  return serialise(document);
}

/** Text fields with one value, by the IPTC Photo Metadata Standard's XMP properties. */
const SIMPLE_TEXTS = [
  ['credit', 'photoshop', 'Credit'],
  ['headline', 'photoshop', 'Headline'],
  ['instructions', 'photoshop', 'Instructions'],
  ['sublocation', 'Iptc4xmpCore', 'Location'],
  ['city', 'photoshop', 'City'],
  ['region', 'photoshop', 'State'],
  ['country', 'photoshop', 'Country'],
  ['countryCode', 'Iptc4xmpCore', 'CountryCode'],
] as const satisfies (readonly [keyof Description, Prefix, string])[];
/** Text fields that may be there in several languages; ours is the default one. */
const LANGUAGE_TEXTS = [
  ['rights', 'dc', 'rights'],
  ['usageTerms', 'xmpRights', 'UsageTerms'],
  ['title', 'dc', 'title'],
  ['caption', 'dc', 'description'],
] as const satisfies (readonly [keyof Description, Prefix, string])[];
/** Parts of Iptc4xmpCore:CreatorContactInfo. */
const CONTACT = [
  ['email', 'CiEmailWork'],
  ['phone', 'CiTelWork'],
  ['website', 'CiUrlWork'],
] as const satisfies (readonly [keyof Description, string])[];

/** Sets of words. */
const WORD_SETS = [
  ['keywords', 'dc', 'subject'],
  ['persons', 'Iptc4xmpExt', 'PersonInImage'],
] as const satisfies (readonly [keyof Description, Prefix, string])[];

/** What the model says nothing of is taken off here too. */
function writeDescription(document: Document, model: Description): void {
  setList(document, 'dc', 'creator', 'Seq', model.creator === null ? [] : [model.creator]);
  for (const [field, prefix, name] of SIMPLE_TEXTS) setSimple(document, prefix, name, model[field]);
  for (const [field, prefix, name] of LANGUAGE_TEXTS) setAlternative(document, prefix, name, model[field]);
  for (const [field, prefix, name] of WORD_SETS) setList(document, prefix, name, 'Bag', model[field]);
  for (const [field, name] of CONTACT) setContact(document, name, model[field]);
}

function readDescription(document: Document): Description {
  const description: Description = { ...EMPTY_DESCRIPTION, creator: firstItem(document, 'dc', 'creator') };
  for (const [field, prefix, name] of SIMPLE_TEXTS) description[field] = simple(document, prefix, name);
  for (const [field, prefix, name] of LANGUAGE_TEXTS)
    description[field] =
      defaultItem(propertyElements(document, prefix, name)[0])?.textContent?.trim() || null;
  for (const [field, name] of CONTACT)
    description[field] = contactPart(document, name)?.textContent?.trim() || null;
  for (const [field, prefix, name] of WORD_SETS) description[field] = items(document, prefix, name);
  return description;
}

function contactPart(document: Document, name: string): Element | undefined {
  const found = propertyElements(document, 'Iptc4xmpCore', 'CreatorContactInfo')[0];
  return found?.getElementsByTagNameNS(NS.Iptc4xmpCore, name).item(0) ?? undefined;
}

/** One part of the contact, beside the others that are there. */
function setContact(document: Document, name: string, value: string | null): void {
  const there = contactPart(document, name);
  if ((there?.textContent?.trim() || null) === value) return;
  there?.parentNode?.removeChild(there);
  if (value === null) return;
  const description = home(document);
  const prefix = prefixFor(description, 'Iptc4xmpCore');
  let contact = propertyElements(document, 'Iptc4xmpCore', 'CreatorContactInfo')[0];
  if (!contact) {
    contact = document.createElementNS(NS.Iptc4xmpCore, `${prefix}:CreatorContactInfo`);
    contact.setAttributeNS(NS.rdf, `${prefixFor(description, 'rdf')}:parseType`, 'Resource');
    append(document, description, contact);
  }
  // A structure is written as parseType="Resource" or with a description inside (ISO 16684-1, 7.6).
  const inside =
    children(contact).find((e) => e.namespaceURI === NS.rdf && e.localName === 'Description') ?? contact;
  const part = document.createElementNS(NS.Iptc4xmpCore, `${prefix}:${name}`);
  part.appendChild(document.createTextNode(value));
  inside.appendChild(part);
}

/** The fields that marks and sidecar share, as marks. `labelOf` maps the label's text to the studio's label. */
export function marksOf(
  model: SidecarModel,
  labelOf: (text: string) => Marks['label'],
): Pick<Marks, MarkField> {
  return {
    verdict: model.verdict,
    stars: model.stars,
    label: model.label === null ? null : labelOf(model.label),
    note: model.note !== null && isNote(model.note) ? model.note : null,
    stage: model.stage !== null && isStageId(model.stage) ? model.stage : null,
    take: model.take !== null && isCorrection(model.take) ? model.take : null,
    caption: model.caption === null ? null : saidIn(model.caption),
  };
}

export interface MergeConflict {
  field: keyof SidecarModel;
  ours: unknown;
  theirs: unknown;
  winner: 'ours' | 'theirs';
}

/** Fields that nobody else changes. */
const STANDING: ReadonlySet<keyof SidecarModel> = new Set([
  'frameId',
  'derivedFrom',
  'metadataDate',
  'keywordTree',
]);

/**
 * Three-way merge, field by field, of what we last wrote (`base`), what we want to write (`ours`) and what lies
 * on disk (`theirs`). Changed on one side only: that side. On both: the later one; the loser is reported. Keywords and persons
 * are merged one by one: what either side gave is there, what either took is not.
 */
export function mergeSidecars(
  base: SidecarModel,
  ours: SidecarModel,
  theirs: SidecarModel,
  oursIsLater: boolean,
): { merged: SidecarModel; conflicts: MergeConflict[] } {
  const merged: SidecarModel = { ...ours };
  const conflicts: MergeConflict[] = [];
  const take = <K extends Exclude<keyof SidecarModel, WordSet>>(field: K) => {
    const same = (a: SidecarModel, b: SidecarModel) => JSON.stringify(a[field]) === JSON.stringify(b[field]);
    // Who a frame is, and the tree that goes by the vocabulary, stand whatever a file says: it may be another frame's, copied.
    if (STANDING.has(field) || same(theirs, base) || same(theirs, ours)) return;
    if (same(ours, base)) merged[field] = theirs[field];
    else {
      conflicts.push({
        field,
        ours: ours[field],
        theirs: theirs[field],
        winner: oursIsLater ? 'ours' : 'theirs',
      });
      if (!oursIsLater) merged[field] = theirs[field];
    }
  };
  for (const field of Object.keys(EMPTY_SIDECAR) as (keyof SidecarModel)[])
    if (field === 'keywords' || field === 'persons')
      merged[field] = mergedWords(base[field], ours[field], theirs[field]);
    else take(field);
  return { merged, conflicts };
}

function mergedWords(base: readonly string[], ours: readonly string[], theirs: readonly string[]): string[] {
  const given = (word: string, there: readonly string[]) =>
    !hasKeyword(base, word) && !hasKeyword(there, word);
  return [
    ...theirs.filter((word) => hasKeyword(ours, word) || given(word, ours)),
    ...ours.filter((word) => given(word, theirs)),
  ];
}

function modelOf(document: Document): SidecarModel {
  const rating = Number(simple(document, 'xmp', 'Rating') ?? '0');
  const good = simple(document, 'xmpDM', 'good')?.toLowerCase();
  const rejected = rating < 0 || good === 'false';
  const kept = Number(simple(document, 'arkiv', 'stars') ?? '0');
  // What we said in their place holds until somebody says something else.
  const said = simple(document, 'arkiv', 'saidStars');
  const saidStars = said !== null && Number(said) === rating ? rating : null;
  const stars = rating >= 0 && saidStars === null ? rating : kept;
  const label = simple(document, 'xmp', 'Label');
  const saidLabel = label !== null && simple(document, 'arkiv', 'saidLabel') === label ? label : null;
  return {
    frameId: simple(document, 'arkiv', 'frame'),
    derivedFrom: simple(document, 'arkiv', 'derivedFrom'),
    verdict: rejected ? 'reject' : good === 'true' ? 'keep' : 'undecided',
    stars: Number.isFinite(stars) ? Math.min(5, Math.max(0, Math.round(stars))) : 0,
    label: saidLabel === null ? label : null,
    note: simple(document, 'arkiv', 'note'),
    stage: simple(document, 'arkiv', 'stage'),
    take: simple(document, 'arkiv', 'take'),
    // Written so that two texts which say the same are the same.
    finish: finishText(finishOf(simple(document, 'arkiv', 'finish') ?? '')) || null,
    saidStars,
    saidLabel,
    preservedFileName: simple(document, 'xmpMM', 'PreservedFileName'),
    keywordTree: readKeywordTree(document),
    clockCorrection: Number(simple(document, 'arkiv', 'clockCorrection') ?? '0') || null,
    ...readDescription(document),
    metadataDate: simple(document, 'xmp', 'MetadataDate'),
  };
}
