import { DOMParser, XMLSerializer, type Document, type Element, type Node } from '@xmldom/xmldom';
import { EMPTY_DESCRIPTION, type Description } from '../description/description';
import { hasKeyword } from '../description/keywords';
import { isNote } from '../marks/note';
import { isCorrection } from '../takes/correction';
import { saidIn } from '../description/texts';
import type { MarkField, Marks, Verdict, WordSet } from '../marks/marks';

/** What Arkiv keeps in a frame's sidecar. Null: the property is absent. */
export interface SidecarModel extends Description {
  frameId: string | null;
  verdict: Verdict;
  /** 0…5; kept in our own namespace while the frame is a reject */
  stars: number;
  /** the label's text, as the studio words it */
  label: string | null;
  /** words to whoever edits the frame; see `Note` */
  note: string | null;
  /** what was said of its place among takes; null: nothing */
  take: string | null;
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
  take: null,
  saidStars: null,
  saidLabel: null,
  preservedFileName: null,
  keywordTree: [],
  clockCorrection: null,
  metadataDate: null,
  ...EMPTY_DESCRIPTION,
};

const NS = {
  x: 'adobe:ns:meta/',
  rdf: 'http://www.w3.org/1999/02/22-rdf-syntax-ns#',
  xml: 'http://www.w3.org/XML/1998/namespace',
  xmlns: 'http://www.w3.org/2000/xmlns/',
  xmp: 'http://ns.adobe.com/xap/1.0/',
  xmpMM: 'http://ns.adobe.com/xap/1.0/mm/',
  xmpDM: 'http://ns.adobe.com/xmp/1.0/DynamicMedia/',
  xmpRights: 'http://ns.adobe.com/xap/1.0/rights/',
  dc: 'http://purl.org/dc/elements/1.1/',
  photoshop: 'http://ns.adobe.com/photoshop/1.0/',
  'mwg-kw': 'http://www.metadataworkinggroup.com/schemas/keywords/',
  Iptc4xmpExt: 'http://iptc.org/std/Iptc4xmpExt/2008-02-29/',
  Iptc4xmpCore: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/',
  arkiv: 'https://ns.arkiv.invalid/frame/1/',
} as const;
type Prefix = keyof typeof NS;

/** Longest sidecar read: real ones with long edit histories stay under 1 MB; four times that is plenty. */
export const MAX_SIDECAR_BYTES = 4 * 1024 * 1024;

export class SidecarError extends Error {}

export type SidecarResult = { ok: true; model: SidecarModel } | { ok: false; reason: string };

/** Reads a sidecar (XMP, ISO 16684-1, RDF/XML). Unknown content is not an error; text that is no XML is. */
export function readSidecar(text: string): SidecarResult {
  try {
    return { ok: true, model: modelOf(parse(text)) };
  } catch (error) {
    if (error instanceof SidecarError) return { ok: false, reason: error.message };
    throw error;
  }
}

/**
 * The text of a sidecar with this model. `existing` is the text that lies on disk: everything in it that is not
 * ours stays as it is. Throws {@link SidecarError} when `existing` cannot be read: it must not be overwritten.
 */
export function writeSidecar(model: SidecarModel, existing?: string): string {
  const document = parse(existing ?? SKELETON);
  setSimple(document, 'arkiv', 'frame', model.frameId);
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
  setSimple(document, 'arkiv', 'take', model.take);
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

/**
 * The tree that keywords stand in (Metadata Working Group, Guidelines 2.0, “Hierarchical Keywords”). What another program
 * says of a keyword that the vocabulary does not place stays.
 */
function writeKeywordTree(document: Document, { keywordTree, keywords }: SidecarModel): void {
  const there = readKeywordTree(document);
  const placed = keywordTree.map((path) => path.at(-1)!);
  const foreign = there.filter((path) => {
    const leaf = path.at(-1)!;
    return hasKeyword(keywords, leaf) && !hasKeyword(placed, leaf) && !isAbove(path, keywordTree);
  });
  const wanted = [...keywordTree, ...foreign];
  const asText = (paths: readonly string[][]) => JSON.stringify(paths.map((path) => path.join('\n')).sort());
  if (asText(there) === asText(wanted)) return;
  remove(document, 'mwg-kw', 'Keywords');
  if (wanted.length === 0) return;
  const description = home(document);
  const [kw, rdf] = [prefixFor(description, 'mwg-kw'), prefixFor(description, 'rdf')];
  const element = (name: string) => document.createElementNS(NS['mwg-kw'], `${kw}:${name}`);
  const bagOf = (paths: readonly string[][]): Element => {
    const bag = document.createElementNS(NS.rdf, `${rdf}:Bag`);
    for (const word of [...new Set(paths.map(([top]) => top!))]) {
      const item = document.createElementNS(NS.rdf, `${rdf}:li`);
      item.setAttributeNS(NS.rdf, `${rdf}:parseType`, 'Resource');
      const keyword = element('Keyword');
      keyword.appendChild(document.createTextNode(word));
      item.appendChild(keyword);
      const below = paths
        .filter(([top, ...rest]) => top === word && rest.length > 0)
        .map(([, ...rest]) => rest);
      if (below.length > 0) {
        const children = element('Children');
        children.appendChild(bagOf(below));
        item.appendChild(children);
      }
      bag.appendChild(item);
    }
    return bag;
  };
  const whole = element('Keywords');
  whole.setAttributeNS(NS.rdf, `${rdf}:parseType`, 'Resource');
  const hierarchy = element('Hierarchy');
  hierarchy.appendChild(bagOf(wanted));
  whole.appendChild(hierarchy);
  append(document, description, whole);
}

/** Whether some path goes on from one. */
const isAbove = (path: readonly string[], paths: readonly string[][]): boolean =>
  paths.some((other) => other.length > path.length && path.every((word, i) => word === other[i]));

/** Levels of a tree that are read: far more than any program shows. */
const MOST_LEVELS = 20;

function readKeywordTree(document: Document): string[][] {
  const found: string[][] = [];
  // A structure stands with parseType="Resource" or with a description inside (ISO 16684-1, 7.6).
  const inside = (element: Element): Element =>
    children(element).find((e) => e.namespaceURI === NS.rdf && e.localName === 'Description') ?? element;
  const part = (element: Element, name: string): Element | undefined =>
    children(inside(element)).find((e) => e.namespaceURI === NS['mwg-kw'] && e.localName === name);
  const visit = (list: Element | undefined, path: readonly string[]): void => {
    const bag = list && children(list).find((e) => e.namespaceURI === NS.rdf);
    for (const item of bag ? children(bag) : []) {
      const word =
        part(item, 'Keyword')?.textContent?.trim() || inside(item).getAttributeNS(NS['mwg-kw'], 'Keyword');
      if (!word || path.length >= MOST_LEVELS) continue;
      const below = part(item, 'Children');
      const before = found.length;
      visit(below, [...path, word]);
      if (found.length === before) found.push([...path, word]);
    }
  };
  for (const whole of propertyElements(document, 'mwg-kw', 'Keywords')) visit(part(whole, 'Hierarchy'), []);
  return found;
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
    // The tree goes by the vocabulary, whatever a file says.
    if (field === 'metadataDate' || field === 'keywordTree' || same(theirs, base) || same(theirs, ours))
      return;
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

const SKELETON =
  `<x:xmpmeta xmlns:x="${NS.x}"><rdf:RDF xmlns:rdf="${NS.rdf}">` +
  `<rdf:Description rdf:about=""></rdf:Description></rdf:RDF></x:xmpmeta>`;

function parse(text: string): Document {
  if (text.length > MAX_SIDECAR_BYTES) {
    throw new SidecarError(`expected at most ${MAX_SIDECAR_BYTES} characters, found ${text.length}`);
  }
  // XMP needs no document type; refusing it shuts out entity bombs and outside entities altogether.
  if (/<!DOCTYPE/i.test(text))
    throw new SidecarError('a document type declaration has no place in a sidecar');
  const body = text
    .replace(/^\uFEFF/, '')
    .replace(/<\?xpacket[^>]*\?>/g, '')
    .trim();
  let problem = '';
  const parser = new DOMParser({
    onError: (level, message) => {
      if (level !== 'warning') problem ||= String(message);
    },
  });
  let document: Document;
  try {
    document = parser.parseFromString(body, 'text/xml');
  } catch (error) {
    throw new SidecarError(`it is not well-formed XML: ${problem || (error as Error).message}`);
  }
  if (problem) throw new SidecarError(`it is not well-formed XML: ${problem}`);
  if (!document.getElementsByTagNameNS(NS.rdf, 'RDF').item(0))
    throw new SidecarError('it holds no rdf:RDF element');
  return document;
}

function serialise(document: Document): string {
  const body = new XMLSerializer().serializeToString(document);
  return `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>\n${body}\n<?xpacket end="w"?>\n`;
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
    verdict: rejected ? 'reject' : good === 'true' ? 'keep' : 'undecided',
    stars: Number.isFinite(stars) ? Math.min(5, Math.max(0, Math.round(stars))) : 0,
    label: saidLabel === null ? label : null,
    note: simple(document, 'arkiv', 'note'),
    take: simple(document, 'arkiv', 'take'),
    saidStars,
    saidLabel,
    preservedFileName: simple(document, 'xmpMM', 'PreservedFileName'),
    keywordTree: readKeywordTree(document),
    clockCorrection: Number(simple(document, 'arkiv', 'clockCorrection') ?? '0') || null,
    ...readDescription(document),
    metadataDate: simple(document, 'xmp', 'MetadataDate'),
  };
}

function descriptions(document: Document): Element[] {
  const rdf = document.getElementsByTagNameNS(NS.rdf, 'RDF').item(0)!;
  return children(rdf).filter((e) => e.namespaceURI === NS.rdf && e.localName === 'Description');
}

function children(element: Element): Element[] {
  const list: Element[] = [];
  for (let node: Node | null = element.firstChild; node; node = node.nextSibling) {
    if (node.nodeType === 1) list.push(node as Element);
  }
  return list;
}

function propertyElements(document: Document, prefix: Prefix, name: string): Element[] {
  return descriptions(document).flatMap((d) =>
    children(d).filter((e) => e.namespaceURI === NS[prefix] && e.localName === name),
  );
}

/** A simple property, written as an attribute or as an element; empty text counts as absent. */
function simple(document: Document, prefix: Prefix, name: string): string | null {
  for (const description of descriptions(document)) {
    const attribute = description.getAttributeNS(NS[prefix], name);
    if (attribute) return attribute;
  }
  return propertyElements(document, prefix, name)[0]?.textContent?.trim() || null;
}

function firstItem(document: Document, prefix: Prefix, name: string): string | null {
  const element = propertyElements(document, prefix, name)[0];
  const item = element?.getElementsByTagNameNS(NS.rdf, 'li').item(0);
  return item?.textContent?.trim() || null;
}

function items(document: Document, prefix: Prefix, name: string): string[] {
  const list = propertyElements(document, prefix, name)[0]?.getElementsByTagNameNS(NS.rdf, 'li');
  return Array.from(list ?? []).flatMap((item) => item.textContent?.trim() || []);
}

function remove(document: Document, prefix: Prefix, name: string): void {
  for (const description of descriptions(document)) description.removeAttributeNS(NS[prefix], name);
  for (const element of propertyElements(document, prefix, name)) element.parentNode?.removeChild(element);
}

/** The description that gets our properties: the one with an empty rdf:about, else the first, else a new one. */
function home(document: Document): Element {
  const all = descriptions(document);
  const own = all.find((d) => (d.getAttributeNS(NS.rdf, 'about') ?? '') === '') ?? all[0];
  if (own) return own;
  const made = document.createElementNS(NS.rdf, 'rdf:Description');
  made.setAttributeNS(NS.rdf, 'rdf:about', '');
  document.getElementsByTagNameNS(NS.rdf, 'RDF').item(0)!.appendChild(made);
  return made;
}

/** Our prefix, or another where the file uses ours for something else. */
function prefixFor(element: Element, prefix: Prefix): string {
  const bound = element.lookupNamespaceURI(prefix);
  if (bound === NS[prefix]) return prefix;
  const chosen = bound ? `arkiv-${prefix}` : prefix;
  element.setAttributeNS(NS.xmlns, `xmlns:${chosen}`, NS[prefix]);
  return chosen;
}

/** Sets one text property where it stands already, so that a file we write twice stays the same text. */
function setSimple(document: Document, prefix: Prefix, name: string, value: string | null): void {
  if (simple(document, prefix, name) === value) return;
  remove(document, prefix, name);
  if (value === null) return;
  const description = home(document);
  const element = document.createElementNS(NS[prefix], `${prefixFor(description, prefix)}:${name}`);
  element.appendChild(document.createTextNode(value));
  append(document, description, element);
}

function setList(
  document: Document,
  prefix: Prefix,
  name: string,
  kind: 'Seq' | 'Alt' | 'Bag',
  texts: readonly string[],
  language?: string,
): void {
  const there = items(document, prefix, name).slice(0, kind === 'Bag' ? undefined : 1);
  if (there.length === texts.length && there.every((text, i) => text === texts[i])) return;
  remove(document, prefix, name);
  if (texts.length === 0) return;
  const description = home(document);
  const element = document.createElementNS(NS[prefix], `${prefixFor(description, prefix)}:${name}`);
  const list = document.createElementNS(NS.rdf, `${prefixFor(description, 'rdf')}:${kind}`);
  for (const item of texts) {
    const li = document.createElementNS(NS.rdf, `${prefixFor(description, 'rdf')}:li`);
    if (language) li.setAttributeNS(NS.xml, 'xml:lang', language);
    li.appendChild(document.createTextNode(item));
    list.appendChild(li);
  }
  element.appendChild(list);
  append(document, description, element);
}

/** Sets what a text says where no language is asked for; what it says in others stays. */
function setAlternative(document: Document, prefix: Prefix, name: string, value: string | null): void {
  const own = value === null ? null : defaultItem(propertyElements(document, prefix, name)[0]);
  if (!own) setList(document, prefix, name, 'Alt', value === null ? [] : [value], 'x-default');
  else if (own.textContent?.trim() !== value) own.textContent = value;
}

/** The item of a text that stands for all languages: the one that says so, else the first. */
function defaultItem(element: Element | undefined): Element | null {
  const all = Array.from(element?.getElementsByTagNameNS(NS.rdf, 'li') ?? []);
  return all.find((item) => item.getAttributeNS(NS.xml, 'lang') === 'x-default') ?? all[0] ?? null;
}

function append(document: Document, description: Element, element: Element): void {
  description.appendChild(document.createTextNode('\n   '));
  description.appendChild(element);
}
