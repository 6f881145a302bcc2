import { XMLSerializer, type Attr, type Document, type Element, type Node } from '@xmldom/xmldom';
import { append, children, descriptions, home, NS, parse, SKELETON } from './packet';

/** The properties that Arkiv writes, by namespace; `*`: all of one. What else a packet says is other programs' own. */
const OURS: Readonly<Record<string, '*' | readonly string[]>> = {
  [NS.arkiv]: '*',
  [NS['mwg-kw']]: ['Keywords'],
  [NS.xmp]: ['Rating', 'Label', 'MetadataDate'],
  [NS.xmpMM]: ['PreservedFileName'],
  [NS.xmpDM]: ['good'],
  [NS.xmpRights]: ['UsageTerms'],
  [NS.dc]: ['creator', 'rights', 'title', 'description', 'subject'],
  [NS.photoshop]: ['Credit', 'Headline', 'Instructions', 'City', 'State', 'Country'],
  [NS.Iptc4xmpCore]: ['Location', 'CountryCode', 'CreatorContactInfo'],
  [NS.Iptc4xmpExt]: ['PersonInImage'],
};

/** What other programs keep in a packet: how a raw is developed, their history, keywords in places of their own. */
export interface Foreign {
  /** a packet with these properties alone; see {@link withForeign} */
  packet: string;
  /** the same for packets that say the same, however they are written; empty: there are none */
  key: string;
}

/** What a packet says beside what Arkiv says. Throws `SidecarError` where it cannot be read. */
export function foreignIn(text: string): Foreign {
  const from = parse(text);
  const into = parse(SKELETON);
  copyInto(into, from);
  return { packet: new XMLSerializer().serializeToString(into), key: keyOf(from) };
}

/** Puts what another packet holds in the place of what other programs had put into this one; where it is the same, nothing changes. */
export function setForeign(document: Document, packet: string): void {
  const wanted = parse(packet);
  if (keyOf(document) === keyOf(wanted)) return;
  for (const description of descriptions(document)) {
    for (const { namespaceURI, localName } of foreignAttributes(description))
      description.removeAttributeNS(namespaceURI!, localName!);
    for (const element of foreignElements(description)) {
      const before = element.previousSibling;
      // The line that it stood on goes with it.
      if (before?.nodeType === 3 && !before.nodeValue?.trim()) description.removeChild(before);
      description.removeChild(element);
    }
  }
  copyInto(document, wanted);
}

function copyInto(into: Document, from: Document): void {
  const target = home(into);
  for (const description of descriptions(from)) {
    for (const { namespaceURI, localName, prefix, value } of foreignAttributes(description))
      target.setAttributeNS(
        namespaceURI!,
        `${freePrefix(target, prefix, namespaceURI!)}:${localName}`,
        value,
      );
    for (const element of foreignElements(description))
      append(into, target, into.importNode(element, true) as Element);
  }
}

/** A prefix under which a namespace can be said here: its own, unless that stands for another one. */
function freePrefix(element: Element, prefix: string | null, namespace: string): string {
  for (let n = 0; ; n++) {
    const wanted = `${prefix ?? 'ns'}${n === 0 ? '' : n}`;
    const bound = element.lookupNamespaceURI(wanted);
    if (bound === namespace) return wanted;
    if (bound !== null) continue;
    element.setAttributeNS(NS.xmlns, `xmlns:${wanted}`, namespace);
    return wanted;
  }
}

const isForeign = ({ namespaceURI, localName }: Attr | Element): boolean => {
  if (namespaceURI === null || [NS.rdf, NS.xml, NS.xmlns].includes(namespaceURI as never)) return false;
  const ours = OURS[namespaceURI];
  return ours !== '*' && !ours?.includes(localName!);
};

const foreignAttributes = (description: Element): Attr[] => [...description.attributes].filter(isForeign);
const foreignElements = (description: Element): Element[] => children(description).filter(isForeign);

/** Names and values alone, in one order: neither prefixes nor line breaks nor places of declarations count. */
function keyOf(document: Document): string {
  const said = descriptions(document).flatMap((description) => [
    // A simple property may stand as an attribute or as an element (ISO 16684-1, 7.9.2.2).
    ...foreignAttributes(description).map((one) => `${nameOf(one)}=${one.value}`),
    ...foreignElements(description).map(sayingOf),
  ]);
  return said.sort().join('\n');
}

const nameOf = ({ namespaceURI, localName }: Attr | Element): string => `{${namespaceURI}}${localName}`;

function sayingOf(element: Element): string {
  const attributes = [...element.attributes]
    .filter(({ namespaceURI }) => namespaceURI !== NS.xmlns)
    .map((one) => `${nameOf(one)}=${one.value}`)
    .sort();
  const inside: string[] = [];
  const hasElements = children(element).length > 0;
  for (let node: Node | null = element.firstChild; node; node = node.nextSibling) {
    if (node.nodeType === 1) inside.push(sayingOf(node as Element));
    else if (!hasElements && node.nodeValue) inside.push(node.nodeValue);
  }
  if (attributes.length === 0 && !hasElements) return `${nameOf(element)}=${inside.join('').trim()}`;
  return `${nameOf(element)}[${attributes.join(' ')}](${inside.join(',')})`;
}
