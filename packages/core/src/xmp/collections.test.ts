import { readSidecar } from './sidecar';

const collectionsIn = (text: string) => {
  const read = readSidecar(text);
  return read.ok ? read.collections : read.reason;
};

const packet = (inside: string) =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
  <rdf:Description rdf:about="" xmlns:mwg-coll="http://www.metadataworkinggroup.com/schemas/collections/">${inside}</rdf:Description>
  </rdf:RDF></x:xmpmeta>`;
const bag = (...items: string[]) =>
  packet(`<mwg-coll:Collections><rdf:Bag>${items.join('')}</rdf:Bag></mwg-coll:Collections>`);
const asResource = (name: string) =>
  `<rdf:li rdf:parseType="Resource"><mwg-coll:CollectionName>${name}</mwg-coll:CollectionName><mwg-coll:CollectionURI>urn:x</mwg-coll:CollectionURI></rdf:li>`;
const asDescription = (name: string) =>
  `<rdf:li><rdf:Description><mwg-coll:CollectionName>${name}</mwg-coll:CollectionName></rdf:Description></rdf:li>`;
const asAttribute = (name: string) =>
  `<rdf:li mwg-coll:CollectionName="${name}" mwg-coll:CollectionURI="urn:y"/>`;

describe('collections that a sidecar names', () => {
  it('are read however the structure is written, each once', () => {
    const text = bag(
      asResource('Portfolio'),
      asDescription('Best of\n 2019'),
      asAttribute('Wall'),
      asResource('Wall'),
    );
    expect(collectionsIn(text)).toEqual(['Portfolio', 'Best of 2019', 'Wall']);
  });

  it('are none where there are none, or where a name is none', () => {
    expect(collectionsIn(packet('<mwg-coll:Other/>'))).toEqual([]);
    expect(collectionsIn(bag(asResource(''), asResource('x'.repeat(121)), '<rdf:li/>'))).toEqual([]);
    expect(collectionsIn(bag(...Array.from({ length: 150 }, (_, i) => asResource(`c${i}`))))).toHaveLength(
      100,
    );
  });
});
