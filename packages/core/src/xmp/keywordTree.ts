import type { Document, Element } from '@xmldom/xmldom';
import { hasKeyword } from '../description/keywords';
import { MOST_LEVELS } from '../vocabulary/term';
import { append, children, field, fieldText, home, NS, prefixFor, propertyElements, remove } from './packet';

/**
 * The tree that keywords stand in (Metadata Working Group, Guidelines 2.0, “Hierarchical Keywords”). What another program
 * says of a keyword that the vocabulary does not place stays.
 */
export function writeKeywordTree(
  document: Document,
  { keywordTree, keywords }: { keywordTree: readonly string[][]; keywords: readonly string[] },
): void {
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

/** Where keywords stand, each from the top down to what nothing stands under. */
export function readKeywordTree(document: Document): string[][] {
  const found: string[][] = [];
  const visit = (list: Element | undefined, path: readonly string[]): void => {
    const bag = list && children(list).find((e) => e.namespaceURI === NS.rdf);
    for (const item of bag ? children(bag) : []) {
      const word = fieldText(item, 'mwg-kw', 'Keyword');
      if (!word || path.length >= MOST_LEVELS) continue;
      const below = field(item, 'mwg-kw', 'Children');
      const before = found.length;
      visit(below, [...path, word]);
      if (found.length === before) found.push([...path, word]);
    }
  };
  for (const whole of propertyElements(document, 'mwg-kw', 'Keywords'))
    visit(field(whole, 'mwg-kw', 'Hierarchy'), []);
  return found;
}
