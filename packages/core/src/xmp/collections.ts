import type { Document } from '@xmldom/xmldom';
import { children, fieldText, NS, propertyElements } from './packet';

/** Names longer than this are no names: albums of people have a line at most. */
const LONGEST = 120;
/** Collections of one picture: far more than anybody puts one into. */
const MOST = 100;

/**
 * Names of the collections that a picture is in, as its packet says (Metadata Working Group, Guidelines 2.0, “Collections”: a bag of
 * structures, each with a name and an address); each once, in their order.
 */
export function readCollections(document: Document): string[] {
  const names = new Set<string>();
  for (const whole of propertyElements(document, 'mwg-coll', 'Collections')) {
    const bag = children(whole).find((e) => e.namespaceURI === NS.rdf);
    for (const item of bag ? children(bag) : []) {
      const name = fieldText(item, 'mwg-coll', 'CollectionName')?.replace(/\s+/g, ' ');
      if (name && name.length <= LONGEST && names.size < MOST) names.add(name);
    }
  }
  return [...names];
}
