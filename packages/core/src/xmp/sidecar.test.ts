import { EMPTY_SIDECAR, mergeSidecars, readSidecar, writeSidecar, type SidecarModel } from './sidecar';

const model = (change: Partial<SidecarModel> = {}): SidecarModel => ({
  ...EMPTY_SIDECAR,
  frameId: '01J0000000000000000000000A',
  ...change,
});
const read = (text: string): SidecarModel => {
  const result = readSidecar(text);
  if (!result.ok) throw new Error(result.reason);
  return result.model;
};

describe('sidecars', () => {
  it.each<Partial<SidecarModel>>([
    {},
    { verdict: 'keep', stars: 5, label: 'Moss' },
    { verdict: 'reject', stars: 3 },
    { creator: 'Zoë <&> "Q"', rights: '© 2031 ]]>', preservedFileName: 'OCK_0001' },
  ])('come back as they were written: %j', (change) =>
    expect(read(writeSidecar(model(change)))).toEqual(model(change)),
  );

  it('write −1 for a reject, as XMP part 1 allows, and keep the stars in our own namespace', () => {
    const text = writeSidecar(model({ verdict: 'reject', stars: 4 }));
    expect(text).toContain('<xmp:Rating>-1</xmp:Rating>');
    expect(text).toContain('<arkiv:stars>4</arkiv:stars>');
  });

  it('say stars and a label for a keeper that has none, where that is wanted, and know them as said', () => {
    const keeper = model({ verdict: 'keep', saidStars: 3, saidLabel: 'Green' });
    const text = writeSidecar(keeper);
    expect(text).toContain('<xmp:Rating>3</xmp:Rating>');
    expect(text).toContain('<xmp:Label>Green</xmp:Label>');
    expect(read(text)).toEqual(keeper);
    // Given stars and labels are never replaced.
    const given = writeSidecar({ ...keeper, stars: 5, label: 'Moss' }, text);
    expect(read(given)).toMatchObject({ stars: 5, label: 'Moss', saidStars: null, saidLabel: null });
    expect(given).toContain('<xmp:Rating>5</xmp:Rating>');
    // Where it is wanted no more, or the verdict is another, nothing of it stays.
    const none = writeSidecar({ ...keeper, verdict: 'undecided', saidStars: null, saidLabel: null }, given);
    expect(read(none)).toMatchObject({ stars: 0, label: null, verdict: 'undecided' });
    expect(read(writeSidecar({ ...keeper, verdict: 'reject' }, text))).toMatchObject({
      verdict: 'reject',
      stars: 0,
    });
  });

  it('in which another program changed the rating that we said: stars change, the verdict never', () => {
    const text = writeSidecar(model({ verdict: 'keep', saidStars: 3, saidLabel: 'Green' }));
    const changed = text
      .replace('<xmp:Rating>3', '<xmp:Rating>4')
      .replace('<xmp:Label>Green', '<xmp:Label>Red');
    expect(read(changed)).toMatchObject({
      ...{ verdict: 'keep', stars: 4, label: 'Red', saidStars: null, saidLabel: null },
    });
    const base = read(text);
    const { merged, conflicts } = mergeSidecars(base, base, read(changed), true);
    expect(merged).toMatchObject({ verdict: 'keep', stars: 4, label: 'Red', saidStars: null });
    expect(conflicts).toEqual([]);
  });

  it('give a caption and keywords, and take off what was taken off; what others wrote beside them stays', () => {
    const said = {
      ...EMPTY_SIDECAR,
      caption: 'The pier,\nat low tide',
      keywords: ['heron', 'grey heron'],
      city: 'Hafen',
    };
    const text = writeSidecar(said);
    const read = readSidecar(text);
    expect(read.ok && [read.model.caption, read.model.keywords]).toEqual([said.caption, said.keywords]);
    const foreign = text.replace(
      'rdf:about=""',
      'rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmp:Nickname="n"',
    );
    const less = writeSidecar({ ...said, caption: null, keywords: [] }, foreign);
    expect(less).not.toMatch(/dc:(description|subject)/);
    expect(less).toMatch(/Hafen/);
    expect(less).toMatch(/xmp:Nickname="n"/);
  });

  it('say where keywords stand in a tree, and leave what another program says of those that stand nowhere here', () => {
    const tree = [
      ['Animals', 'Birds', 'heron'],
      ['Animals', 'Birds', 'gull'],
      ['Places', 'pier'],
    ];
    const keywords = ['heron', 'gull', 'Birds', 'Animals', 'pier', 'Places'];
    const text = writeSidecar(model({ keywords, keywordTree: tree }));
    expect(read(text).keywordTree).toEqual(tree);
    // The same tree is the same text, in whatever order it is told.
    expect(writeSidecar(model({ keywords, keywordTree: [...tree].reverse() }), text)).toBe(text);
    // A term that stands elsewhere now, one that is in no tree any more, and one that is gone.
    const moved = writeSidecar(
      model({ keywords: ['heron', 'pier'], keywordTree: [['Waders', 'heron']] }),
      text,
    );
    expect(read(moved).keywordTree).toEqual([
      ['Waders', 'heron'],
      ['Places', 'pier'],
    ]);
    expect(writeSidecar(model(), moved)).not.toMatch(/mwg-kw:Keywords/);
  });

  it('change what a text says where no language is asked for, and leave what it says in others', () => {
    const several = writeSidecar(model({ title: 'Low water' })).replace(
      '</rdf:Alt>',
      '<rdf:li xml:lang="de">Ebbe</rdf:li></rdf:Alt>',
    );
    expect(read(several).title).toBe('Low water');
    const changed = writeSidecar(model({ title: 'High water' }), several);
    expect(read(changed).title).toBe('High water');
    expect(changed).toContain('<rdf:li xml:lang="de">Ebbe</rdf:li>');
    expect(writeSidecar(model(), several)).not.toMatch(/dc:title/);
  });

  it('are the same text when nothing changed', () => {
    const once = writeSidecar(model({ stars: 2, creator: 'A' }));
    expect(writeSidecar(model({ stars: 2, creator: 'A' }), once)).toBe(once);
  });

  const foreign = `<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>
<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">
 <rdf:Description rdf:about="" xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:other="http://example.invalid/other/" xmp:Rating="2" xmp:Label="Red" other:crop="0.1">
  <other:steps><rdf:Seq><rdf:li>one</rdf:li><rdf:li>two</rdf:li></rdf:Seq></other:steps><!-- a note -->
 </rdf:Description>
</rdf:RDF></x:xmpmeta>
<?xpacket end="w"?>`;

  it('read properties that stand as attributes', () =>
    expect(read(foreign)).toMatchObject({ stars: 2, label: 'Red', verdict: 'undecided' }));

  it('keep what other programs wrote', () => {
    const text = writeSidecar({ ...read(foreign), stars: 5 }, foreign);
    expect(text).toContain('other:crop="0.1"');
    expect(text).toContain('<rdf:li>two</rdf:li>');
    expect(text).toContain('<!-- a note -->');
    expect(text).not.toContain('xmp:Rating="2"');
    expect(read(text).stars).toBe(5);
  });

  it.each([
    ['no XML', 'hello'],
    ['cut off', foreign.slice(0, 300)],
    ['other XML', '<a/>'],
    [
      'an entity bomb',
      `<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>${foreign.slice(foreign.indexOf('<x:xmpmeta'), -20)}`,
    ],
    ['empty', ''],
  ])('that hold %s are refused, not overwritten', (_, text) => {
    expect(readSidecar(text).ok).toBe(false);
    expect(() => writeSidecar(model(), text)).toThrow();
  });

  it('limit stars from outside to five', () => {
    expect(read(foreign.replace('Rating="2"', 'Rating="6"')).stars).toBe(5);
    expect(read(foreign.replace('Rating="2"', 'Rating="-1"')).verdict).toBe('reject');
  });
});

describe('merging a sidecar that changed outside', () => {
  const base = model({ stars: 1, verdict: 'undecided' });

  it('merges keywords one by one: what either side gave is there, what either took is not', () => {
    const of = (keywords: string[]) => model({ keywords });
    const base = of(['pier', 'fish', 'ebb']);
    const { merged, conflicts } = mergeSidecars(
      base,
      of(['pier', 'fish', 'heron']),
      of(['Pier', 'ebb', 'boat']),
      true,
    );
    expect([merged.keywords, conflicts]).toEqual([['Pier', 'boat', 'heron'], []]);
    expect(mergeSidecars(base, base, of([]), true).merged.keywords).toEqual([]);
    expect(mergeSidecars(of([]), of(['heron']), of(['HERON', 'boat']), true).merged.keywords).toEqual([
      'HERON',
      'boat',
    ]);
  });

  it('takes each side’s own change', () => {
    const { merged, conflicts } = mergeSidecars(
      base,
      { ...base, verdict: 'keep' },
      { ...base, stars: 4 },
      true,
    );
    expect(merged).toMatchObject({ verdict: 'keep', stars: 4 });
    expect(conflicts).toEqual([]);
  });

  it.each([
    [true, 2, 'ours'],
    [false, 5, 'theirs'],
  ])('gives a field that both changed to the later one (ours later: %s)', (oursIsLater, stars, winner) => {
    const { merged, conflicts } = mergeSidecars(
      base,
      { ...base, stars: 2 },
      { ...base, stars: 5 },
      oursIsLater,
    );
    expect(merged.stars).toBe(stars);
    expect(conflicts).toEqual([{ field: 'stars', ours: 2, theirs: 5, winner }]);
  });
});
