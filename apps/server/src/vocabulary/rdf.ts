import { Readable } from 'node:stream';
import type { Statement } from '@arkiv/core';

/** Addresses without a beginning of their own are told apart by it, and mean nothing else. */
const BASE = 'urn:arkiv:brought:';

interface Node {
  termType: string;
  value: string;
  language?: string;
}

const statement = (subject: Node, predicate: Node, object: Node): Statement => ({
  subject: subject.value,
  predicate: predicate.value,
  object: {
    value: object.value,
    literal: object.termType === 'Literal',
    language: object.language ?? '',
  },
});

/** What RDF says, in Turtle or RDF/XML. Throws where it cannot be read, with the line where the parser knows it. */
export async function statementsIn(text: string, format: 'turtle' | 'rdfxml'): Promise<Statement[]> {
  if (format === 'turtle') {
    const { Parser } = await import('n3');
    return new Parser({ baseIRI: BASE })
      .parse(text)
      .map(({ subject, predicate, object }) => statement(subject, predicate, object));
  }
  // No vocabulary needs a document type; refusing it shuts out entity bombs and outside entities altogether.
  if (/<!DOCTYPE/i.test(text)) throw new Error('a document type declaration has no place in a vocabulary');
  const { RdfXmlParser } = await import('rdfxml-streaming-parser');
  const parser = new RdfXmlParser({ baseIRI: BASE, trackPosition: true });
  const found: Statement[] = [];
  const quads = Readable.from([text]).pipe(parser) as unknown as AsyncIterable<{
    subject: Node;
    predicate: Node;
    object: Node;
  }>;
  for await (const { subject, predicate, object } of quads) found.push(statement(subject, predicate, object));
  return found;
}
