import { tidy } from '../description/keywords';
import type { BroughtTerm } from './indented';
import { isRosterNumber } from './roster';
import { MOST_LEVELS, TERM_KINDS, unique, type TermKind, type Vocabulary } from './term';

const SKOS = 'http://www.w3.org/2004/02/skos/core#';
const RDF_TYPE = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#type';
/** Ours, for what SKOS has no word for. */
const OURS = 'https://ns.arkiv.invalid/vocabulary/1/';

/** One statement of RDF, as parsers give it. */
export interface Statement {
  subject: string;
  predicate: string;
  object: { value: string; literal: boolean; language: string };
}

/** A string as Turtle writes it (W3C Turtle 1.1, 6.4 “STRING_LITERAL_QUOTE”). */
const quoted = (text: string): string =>
  `"${text
    .replace(/[\\"]/g, String.raw`\$&`)
    .replace(/\p{Cc}/gu, (char) => `\\u${char.charCodeAt(0).toString(16).padStart(4, '0')}`)}"`;

/** The vocabulary as a SKOS concept scheme (W3C SKOS Reference, 2009) in Turtle. */
export function toTurtle(vocabulary: Vocabulary): string {
  const lines = [
    `@prefix skos: <${SKOS}> .`,
    `@prefix arkiv: <${OURS}> .`,
    '',
    `<${OURS}> a skos:ConceptScheme .`,
  ];
  for (const { id, word, parent, synonyms, kind, number, deliver } of vocabulary.terms) {
    const up =
      parent !== null && vocabulary.get(parent)
        ? `skos:broader <urn:ulid:${parent}>`
        : `skos:topConceptOf <${OURS}>`;
    lines.push(
      '',
      `<urn:ulid:${id}> a skos:Concept ;`,
      `  skos:inScheme <${OURS}> ;`,
      `  ${up} ;`,
      ...synonyms.map((synonym) => `  skos:altLabel ${quoted(synonym)} ;`),
      ...(kind === 'subject' ? [] : [`  arkiv:kind ${quoted(kind)} ;`]),
      ...(number === null ? [] : [`  skos:notation ${quoted(number)} ;`]),
      ...(deliver ? [] : ['  arkiv:deliver false ;']),
      `  skos:prefLabel ${quoted(word)} .`,
    );
  }
  return `${lines.join('\n')}\n`;
}

interface Concept {
  /** by language; empty: none is named */
  labels: { text: string; language: string }[];
  others: string[];
  broader: string[];
  kind: TermKind | null;
  number: string | null;
  deliver: boolean;
}

/**
 * SKOS as terms. A concept is called by its label without a language, else by the wanted language, else by its first;
 * what it is called otherwise are its synonyms. Of several broader concepts the first in order counts.
 */
export function fromStatements(statements: readonly Statement[], language = 'en'): BroughtTerm[] {
  const concepts = new Map<string, Concept>();
  const concept = (id: string): Concept => {
    let found = concepts.get(id);
    if (!found)
      concepts.set(
        id,
        (found = { labels: [], others: [], broader: [], kind: null, number: null, deliver: true }),
      );
    return found;
  };
  for (const { subject, predicate, object } of statements) {
    const text = tidy(object.value);
    if (predicate === `${SKOS}prefLabel` && object.literal && text !== '')
      concept(subject).labels.push({ text, language: object.language });
    else if ([`${SKOS}altLabel`, `${SKOS}hiddenLabel`].includes(predicate) && object.literal && text !== '')
      concept(subject).others.push(text);
    else if (predicate === `${SKOS}broader` && !object.literal) concept(subject).broader.push(object.value);
    else if (predicate === `${SKOS}narrower` && !object.literal) concept(object.value).broader.push(subject);
    else if (predicate === RDF_TYPE && object.value === `${SKOS}Concept`) concept(subject);
    else if (predicate === `${OURS}kind` && TERM_KINDS.includes(object.value as TermKind))
      concept(subject).kind = object.value as TermKind;
    else if (predicate === `${SKOS}notation` && object.literal && isRosterNumber(text))
      concept(subject).number = text;
    else if (predicate === `${OURS}deliver`) concept(subject).deliver = object.value !== 'false';
  }
  const words = new Map([...concepts].map(([id, its]) => [id, wordOf(its, language)] as const));
  const named = (id: string) => words.get(id) ?? null;
  const pathOf = (id: string): string[] | null => {
    const path: string[] = [];
    const seen = new Set<string>();
    for (let at: string | undefined = id; at !== undefined && !seen.has(at);) {
      seen.add(at);
      const word = named(at);
      if (word === null) return path.length === 0 ? null : path;
      path.unshift(word);
      if (path.length > MOST_LEVELS) return null;
      at = concepts
        .get(at)!
        .broader.filter((up) => named(up) !== null)
        .sort()[0];
    }
    return path;
  };
  return [...concepts]
    .flatMap(([id, its]): BroughtTerm[] => {
      const path = pathOf(id);
      if (path === null) return [];
      const own = path.at(-1)!;
      const synonyms = unique([...its.labels.map(({ text }) => text), ...its.others]).filter(
        (word) => word !== own,
      );
      return [{ path, synonyms, kind: its.kind, number: its.number, deliver: its.deliver }];
    })
    .sort((a, b) => a.path.length - b.path.length);
}

function wordOf({ labels, others }: Concept, language: string): string | null {
  const of = (wanted: string) => labels.find((one) => one.language.toLowerCase().split('-')[0] === wanted);
  return (of('') ?? of(language) ?? labels[0])?.text ?? others[0] ?? null;
}
