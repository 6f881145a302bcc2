import fc from 'fast-check';
import { RdfXmlParser } from 'rdfxml-streaming-parser';
import { EMPTY_SIDECAR, readSidecar, writeSidecar, type SidecarModel } from './sidecar';

const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const XMP = 'http://ns.adobe.com/xap/1.0/';
const DC = 'http://purl.org/dc/elements/1.1/';
const FRAME = 'https://example.invalid/frame';

interface Term {
  termType: string;
  value: string;
  language?: string;
}

/** What an RDF parser that is not ours finds in a sidecar: by property of the frame, its values. */
async function statements(text: string): Promise<Map<string, string[]>> {
  // The wrapper around it is no RDF (ISO 16684-1, 7.3).
  const [rdf] = /<rdf:RDF[\s\S]*<\/rdf:RDF>/.exec(text)!;
  const parser = new RdfXmlParser({ baseIRI: FRAME });
  const found: { subject: Term; predicate: Term; object: Term }[] = [];
  await new Promise<void>((resolve, reject) => {
    parser.on('data', (quad: (typeof found)[number]) => found.push(quad));
    parser.on('error', reject);
    parser.on('end', resolve);
    parser.write(rdf);
    parser.end();
  });
  const by = new Map<string, string[]>();
  for (const { subject, predicate, object } of found.filter((quad) => quad.subject.value === FRAME)) {
    const items =
      object.termType === 'BlankNode'
        ? found
            .filter((quad) => quad.subject.value === object.value && quad.predicate.value !== `${RDF}type`)
            .map((quad) => quad.object.value)
        : [object.value];
    by.set(predicate.value, [...(by.get(predicate.value) ?? []), ...items]);
    expect(subject.termType).toBe('NamedNode');
  }
  return by;
}

/** Where each text with one value belongs (IPTC Photo Metadata Standard 2023.2). */
const PLAIN = {
  creator: `${DC}creator`,
  rights: `${DC}rights`,
  title: `${DC}title`,
  usageTerms: `${XMP}rights/UsageTerms`,
  ...Object.fromEntries(
    Object.entries({
      credit: 'Credit',
      headline: 'Headline',
      instructions: 'Instructions',
      city: 'City',
      region: 'State',
      country: 'Country',
    }).map(([field, name]) => [field, `http://ns.adobe.com/photoshop/1.0/${name}`]),
  ),
  sublocation: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/Location',
  countryCode: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/CountryCode',
};

// Whatever XML can hold: line ends are made one kind by every parser, and control characters have no place in it.
const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 24 })
  .map((value) => value.replace(/[\p{Cc}\p{Cs}\uFFFE\uFFFF]/gu, '').trim())
  .filter((value) => value !== '');
const model: fc.Arbitrary<SidecarModel> = fc.record({
  ...Object.fromEntries(Object.entries(EMPTY_SIDECAR).map(([field, value]) => [field, fc.constant(value)])),
  verdict: fc.constantFrom('keep', 'reject', 'undecided'),
  stars: fc.integer({ min: 0, max: 5 }),
  label: fc.option(text, { nil: null }),
  saidStars: fc.option(fc.integer({ min: 1, max: 5 }), { nil: null }),
  saidLabel: fc.option(text, { nil: null }),
  caption: fc.option(text, { nil: null }),
  ...Object.fromEntries(Object.keys(PLAIN).map((field) => [field, fc.option(text, { nil: null })])),
  keywords: fc.uniqueArray(text, { maxLength: 4 }),
  persons: fc.uniqueArray(text, { maxLength: 3 }),
}) as unknown as fc.Arbitrary<SidecarModel>;

describe('sidecars, as a parser that is not ours reads them', () => {
  it('say in RDF what the model says, whatever the words', async () => {
    await fc.assert(
      fc.asyncProperty(model, async (its) => {
        const said = await statements(writeSidecar(its));
        const { verdict, stars, label, saidStars, saidLabel } = its;
        const rating = verdict === 'reject' ? -1 : stars || saidStars || null;
        expect(said.get(`${XMP}Rating`) ?? []).toEqual(rating === null ? [] : [String(rating)]);
        expect(said.get(`${XMP}Label`) ?? []).toEqual([label ?? saidLabel ?? []].flat());
        expect(said.get('http://ns.adobe.com/xmp/1.0/DynamicMedia/good') ?? []).toEqual(
          verdict === 'undecided' ? [] : [verdict === 'keep' ? 'True' : 'False'],
        );
        expect(said.get(`${DC}subject`) ?? []).toEqual(its.keywords);
        expect(said.get(`${DC}description`) ?? []).toEqual([its.caption ?? []].flat());
        expect(said.get('http://iptc.org/std/Iptc4xmpExt/2008-02-29/PersonInImage') ?? []).toEqual(
          its.persons,
        );
        for (const [field, place] of Object.entries(PLAIN))
          expect([field, said.get(place) ?? []]).toEqual([field, [its[field as 'title'] ?? []].flat()]);
      }),
      { numRuns: 200 },
    );
  });

  it('keep every statement of another program through many changes of ours', async () => {
    const foreign = `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}">
 <rdf:Description rdf:about="" xmlns:o="http://example.invalid/other/" o:crop="0.1">
  <o:steps><rdf:Seq><rdf:li>one &amp; two</rdf:li><rdf:li>Größe</rdf:li></rdf:Seq></o:steps>
 </rdf:Description></rdf:RDF></x:xmpmeta>`;
    await fc.assert(
      fc.asyncProperty(fc.array(model, { minLength: 1, maxLength: 4 }), async (changes) => {
        const written = changes.reduce((before, its) => writeSidecar(its, before), foreign);
        const said = await statements(written);
        expect(said.get('http://example.invalid/other/crop')).toEqual(['0.1']);
        expect(said.get('http://example.invalid/other/steps')).toEqual(['one & two', 'Größe']);
        const back = readSidecar(written);
        const { verdict, stars } = changes.at(-1)!;
        expect(back.ok && [back.model.verdict, back.model.stars]).toEqual([verdict, stars]);
      }),
      { numRuns: 100 },
    );
  });
});
