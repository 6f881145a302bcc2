import { DOMParser, XMLSerializer, type Document, type Element, type Node } from '@xmldom/xmldom';

/** XMP packets (ISO 16684-1, RDF/XML): reading and changing their properties, whatever else stands in them. */

export const NS = {
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
  'mwg-coll': 'http://www.metadataworkinggroup.com/schemas/collections/',
  Iptc4xmpExt: 'http://iptc.org/std/Iptc4xmpExt/2008-02-29/',
  Iptc4xmpCore: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/',
  arkiv: 'https://ns.arkiv.invalid/frame/1/',
} as const;
export type Prefix = keyof typeof NS;

/** Longest sidecar read: real ones with long edit histories stay under 1 MB; four times that is plenty. */
export const MAX_SIDECAR_BYTES = 4 * 1024 * 1024;

export class SidecarError extends Error {}

/** A packet that says nothing yet. */
export const SKELETON =
  `<x:xmpmeta xmlns:x="${NS.x}"><rdf:RDF xmlns:rdf="${NS.rdf}">` +
  `<rdf:Description rdf:about=""></rdf:Description></rdf:RDF></x:xmpmeta>`;

/** The document of a packet. Throws {@link SidecarError} where it is none, or too long. */
export function parse(text: string): Document {
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

/** A document as the text of a packet. */
export function serialise(document: Document): string {
  const body = new XMLSerializer().serializeToString(document);
  return `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>\n${body}\n<?xpacket end="w"?>\n`;
}

/** The descriptions that a packet holds, each with some properties. */
export function descriptions(document: Document): Element[] {
  const rdf = document.getElementsByTagNameNS(NS.rdf, 'RDF').item(0)!;
  return children(rdf).filter((e) => e.namespaceURI === NS.rdf && e.localName === 'Description');
}

/** The elements right inside one. */
export function children(element: Element): Element[] {
  const list: Element[] = [];
  for (let node: Node | null = element.firstChild; node; node = node.nextSibling) {
    if (node.nodeType === 1) list.push(node as Element);
  }
  return list;
}

/** The elements of a property, wherever it stands. */
export function propertyElements(document: Document, prefix: Prefix, name: string): Element[] {
  return descriptions(document).flatMap((d) =>
    children(d).filter((e) => e.namespaceURI === NS[prefix] && e.localName === name),
  );
}

/** A structure stands with parseType="Resource" or with a description inside (ISO 16684-1, 7.6). */
const inside = (element: Element): Element =>
  children(element).find((e) => e.namespaceURI === NS.rdf && e.localName === 'Description') ?? element;

/** A part of a structure that is an element. */
export const field = (structure: Element, prefix: Prefix, name: string): Element | undefined =>
  children(inside(structure)).find((e) => e.namespaceURI === NS[prefix] && e.localName === name);

/** A part of a structure that is text, as an element or an attribute; empty text counts as absent. */
export const fieldText = (structure: Element, prefix: Prefix, name: string): string | null =>
  field(structure, prefix, name)?.textContent?.trim() ||
  inside(structure).getAttributeNS(NS[prefix], name)?.trim() ||
  null;

/** A simple property, written as an attribute or as an element; empty text counts as absent. */
export function simple(document: Document, prefix: Prefix, name: string): string | null {
  for (const description of descriptions(document)) {
    const attribute = description.getAttributeNS(NS[prefix], name);
    if (attribute) return attribute;
  }
  return propertyElements(document, prefix, name)[0]?.textContent?.trim() || null;
}

/** The first of a list; null: there is none. */
export function firstItem(document: Document, prefix: Prefix, name: string): string | null {
  const element = propertyElements(document, prefix, name)[0];
  const item = element?.getElementsByTagNameNS(NS.rdf, 'li').item(0);
  return item?.textContent?.trim() || null;
}

/** All of a list. */
export function items(document: Document, prefix: Prefix, name: string): string[] {
  const list = propertyElements(document, prefix, name)[0]?.getElementsByTagNameNS(NS.rdf, 'li');
  return Array.from(list ?? []).flatMap((item) => item.textContent?.trim() || []);
}

/** Takes a property away, as attribute or element. */
export function remove(document: Document, prefix: Prefix, name: string): void {
  for (const description of descriptions(document)) description.removeAttributeNS(NS[prefix], name);
  for (const element of propertyElements(document, prefix, name)) element.parentNode?.removeChild(element);
}

/** The description that gets our properties: the one with an empty rdf:about, else the first, else a new one. */
export function home(document: Document): Element {
  const all = descriptions(document);
  const own = all.find((d) => (d.getAttributeNS(NS.rdf, 'about') ?? '') === '') ?? all[0];
  if (own) return own;
  const made = document.createElementNS(NS.rdf, 'rdf:Description');
  made.setAttributeNS(NS.rdf, 'rdf:about', '');
  document.getElementsByTagNameNS(NS.rdf, 'RDF').item(0)!.appendChild(made);
  return made;
}

/** Our prefix, or another where the file uses ours for something else. */
export function prefixFor(element: Element, prefix: Prefix): string {
  const bound = element.lookupNamespaceURI(prefix);
  if (bound === NS[prefix]) return prefix;
  const chosen = bound ? `arkiv-${prefix}` : prefix;
  element.setAttributeNS(NS.xmlns, `xmlns:${chosen}`, NS[prefix]);
  return chosen;
}

/** Sets one text property where it stands already, so that a file we write twice stays the same text. */
export function setSimple(document: Document, prefix: Prefix, name: string, value: string | null): void {
  if (simple(document, prefix, name) === value) return;
  remove(document, prefix, name);
  if (value === null) return;
  const description = home(document);
  const element = document.createElementNS(NS[prefix], `${prefixFor(description, prefix)}:${name}`);
  element.appendChild(document.createTextNode(value));
  append(document, description, element);
}

/** Sets a list of texts where another one stands; an empty one takes it away. */
export function setList(
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
export function setAlternative(document: Document, prefix: Prefix, name: string, value: string | null): void {
  const own = value === null ? null : defaultItem(propertyElements(document, prefix, name)[0]);
  if (!own) setList(document, prefix, name, 'Alt', value === null ? [] : [value], 'x-default');
  else if (own.textContent?.trim() !== value) own.textContent = value;
}

/** The item of a text that stands for all languages: the one that says so, else the first. */
export function defaultItem(element: Element | undefined): Element | null {
  const all = Array.from(element?.getElementsByTagNameNS(NS.rdf, 'li') ?? []);
  return all.find((item) => item.getAttributeNS(NS.xml, 'lang') === 'x-default') ?? all[0] ?? null;
}

/** Puts an element on a line of its own into a description. */
export function append(document: Document, description: Element, element: Element): void {
  description.appendChild(document.createTextNode('\n   '));
  description.appendChild(element);
}
