import { RdfXmlParser } from 'rdfxml-streaming-parser';
import { foreignIn } from './foreign';
import { EMPTY_SIDECAR, readSidecar, SidecarError, writeSidecar } from './sidecar';

const RDF = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
const packet = (inside: string, more = '') =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${RDF}"><rdf:Description rdf:about="" ${more}>${inside}</rdf:Description></rdf:RDF></x:xmpmeta>`;
const TUNED = packet(
  `<xmp:Rating>3</xmp:Rating><xmp:CreatorTool>Tune &amp; Tone</xmp:CreatorTool>
   <o:curve><rdf:Seq><rdf:li>0, 0</rdf:li><rdf:li>255, 240</rdf:li></rdf:Seq></o:curve>
   <o:mask rdf:parseType="Resource"><o:kind>sky</o:kind></o:mask>
   <dc:subject><rdf:Bag><rdf:li>heron</rdf:li></rdf:Bag></dc:subject>`,
  'xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:o="http://example.invalid/other/" o:warm="7"',
);

/** Each statement that a parser which is not ours finds, but what blank nodes are called. */
async function statements(text: string): Promise<string[]> {
  const [rdf] = /<rdf:RDF[\s\S]*<\/rdf:RDF>/.exec(text)!;
  const parser = new RdfXmlParser({ baseIRI: 'https://example.invalid/frame' });
  const found: string[] = [];
  await new Promise<void>((resolve, reject) => {
    parser.on(
      'data',
      ({
        predicate,
        object,
      }: {
        predicate: { value: string };
        object: { termType: string; value: string };
      }) => found.push(`${predicate.value} ${object.termType === 'BlankNode' ? '' : object.value}`),
    );
    parser.on('error', reject);
    parser.on('end', resolve);
    parser.write(rdf);
    parser.end();
  });
  return found.sort();
}

describe('what other programs keep in a sidecar', () => {
  it('goes whole into another one, in the place of what they had put there, beside what Arkiv says', async () => {
    const own = writeSidecar(
      { ...EMPTY_SIDECAR, frameId: '01J0000000000000000000000A', stars: 5, keywords: ['heron'] },
      packet('<o:warm>1</o:warm><o:old>x</o:old>', 'xmlns:o="http://example.invalid/other/"'),
    );
    const model = readSidecar(own);
    const written = writeSidecar(model.ok ? model.model : EMPTY_SIDECAR, own, foreignIn(TUNED).packet);
    expect(readSidecar(written)).toMatchObject({ ok: true, model: { stars: 5, keywords: ['heron'] } });
    const theirs = (all: string[]) =>
      all.filter((one) => /other\/|CreatorTool|rdf-syntax-ns#_|rdf-syntax-ns#type .*Seq/.test(one));
    expect(theirs(await statements(written))).toEqual(theirs(await statements(TUNED)));
    expect(written).not.toContain('old');
    // Once more, and nothing changes.
    expect(writeSidecar(model.ok ? model.model : EMPTY_SIDECAR, written, foreignIn(TUNED).packet)).toBe(
      written,
    );
  });

  it('is the same however it is written, and another where a value is', () => {
    const key = (text: string) => foreignIn(text).key;
    const other = TUNED.replaceAll('o:', 'tune:').replaceAll('xmlns:o=', 'xmlns:tune=');
    expect(key(other)).toBe(key(TUNED));
    expect(
      key(TUNED.replace(' o:warm="7"', '').replace('<o:curve>', '<o:warm> 7 </o:warm>\n<o:curve>')),
    ).toBe(key(TUNED));
    expect(key(foreignIn(TUNED).packet)).toBe(key(TUNED));
    expect(key(writeSidecar({ ...EMPTY_SIDECAR, stars: 2, caption: 'dusk' }, TUNED))).toBe(key(TUNED));
    expect(key(TUNED.replace('240', '241'))).not.toBe(key(TUNED));
    expect(key(writeSidecar({ ...EMPTY_SIDECAR, stars: 2, caption: 'dusk', note: 'pole' }))).toBe('');
  });

  it('keeps apart two programs that use one prefix', async () => {
    const one = packet('', 'xmlns:o="http://example.invalid/one/" o:a="1"');
    const two = packet('<o:b>2</o:b>', 'xmlns:o="http://example.invalid/two/" o:c="3"');
    const both = writeSidecar(EMPTY_SIDECAR, one, foreignIn(two).packet);
    expect((await statements(both)).filter((one) => one.includes('invalid/'))).toEqual([
      'http://example.invalid/two/b 2',
      'http://example.invalid/two/c 3',
    ]);
  });

  it('is refused where it is no packet', () =>
    expect(() => foreignIn('no XML at all')).toThrow(SidecarError));
});
