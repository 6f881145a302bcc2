import { bagInfoText, bagManifestText } from './bag';
import { manifestText, parseManifest } from './manifest';
import { remakePlan, type SetFile } from './remake';
import { EMPTY_DESCRIPTION, type Description } from '../description/description';
import {
  DEFAULT_OUTPUT_SPEC,
  DEFAULT_OUTPUT_SPECS,
  howMade,
  outputSize,
  printPixels,
  readSpec,
  specProblem,
  specsProblem,
  specWords,
  type MetadataChoice,
  type OutputSpec,
  type SizeRule,
} from './outputSpec';
import { toldToClients } from './told';

const long = (pixels: number) => ({ by: 'long', pixels }) as const;

describe('output size', () => {
  it.each<[number, number, SizeRule, number, number]>([
    [6000, 4000, long(2000), 2000, 1333],
    [4000, 6000, long(2000), 1333, 2000],
    [1200, 800, long(2000), 1200, 800],
    [10000, 3, long(100), 100, 1],
    [6000, 4000, { by: 'short', pixels: 1000 }, 1500, 1000],
    [4000, 6000, { by: 'short', pixels: 1000 }, 1000, 1500],
    // A box is turned with the picture.
    [6000, 4000, { by: 'box', width: 1080, height: 1350 }, 1350, 900],
    [3000, 4000, { by: 'box', width: 1080, height: 1350 }, 1013, 1350],
    [4000, 4000, { by: 'box', width: 1080, height: 1350 }, 1080, 1080],
    [6000, 4000, { by: 'print', inches: 10, ppi: 200 }, 2000, 1333],
    [6000, 4000, { by: 'whole' }, 6000, 4000],
  ])('of %i × %i by %j is %i × %i', (w, h, rule, width, height) =>
    expect(outputSize(w, h, rule)).toEqual({ width, height }),
  );

  it('of a print is inches times resolution', () => expect(printPixels(10, 200)).toBe(2000));
});

describe('an output spec', () => {
  const spec = (more: Partial<OutputSpec>): OutputSpec => ({ ...DEFAULT_OUTPUT_SPEC, ...more });

  it('is right as it comes, and is said in a line', () => {
    expect(specsProblem(DEFAULT_OUTPUT_SPECS)).toBeNull();
    expect(DEFAULT_OUTPUT_SPECS.map(specWords)).toEqual([
      'JPEG · long side 2,000 px · quality 88 · sRGB · sharpened for screen · creator and rights',
      'JPEG · whole size · quality 95 · sRGB · sharpened for paper · all metadata but places',
      'the file as it is, byte for byte',
    ]);
    expect(
      specWords(
        spec({
          ...{ format: 'png', space: 'p3', sharpen: 'none', metadata: 'none', folders: 'day' },
          size: { by: 'print', inches: 10, ppi: 200 },
          watermark: { text: '© Ana', place: 'middle', size: 30, strength: 40 },
        }),
      ),
    ).toBe('PNG · 10 in at 200 ppi, 2,000 px · Display P3 · “© Ana” over it · no metadata · a folder a day');
    expect(specWords(spec({ mostBytes: 2_000_000 }))).toContain('at most 2 MB');
  });

  it.each<[Partial<OutputSpec>, string]>([
    [{ name: ' ' }, 'name'],
    [{ size: long(10) }, 'Sides are from 64'],
    [{ size: { by: 'print', inches: 0.2, ppi: 200 } }, 'inches'],
    [{ size: { by: 'print', inches: 150, ppi: 1200 } }, 'Sides are from 64'],
    [{ size: { by: 'area' } as never }, 'way of giving a size'],
    [{ quality: 0 }, 'Quality'],
    [{ mostBytes: 100 }, '20 kB'],
    [{ mostBytes: 2_000_000, format: 'png' }, 'needs a format with a quality'],
    [{ watermark: { text: '', place: 'middle', size: 30, strength: 40 } }, 'watermark'],
    [{ folders: 'week' as never }, 'Folders'],
    [{ pattern: '{nonsense}' }, 'nonsense'],
  ])('with %j is refused', (more, words) => {
    expect(specProblem(spec(more))).toContain(words);
  });

  it('has a name of its own among the others', () => {
    expect(specsProblem([spec({ name: 'Web' }), spec({ name: ' web' })])).toBe('Two specs are called “web”.');
    expect(specsProblem([])).toContain('one spec at least');
  });

  it('of an earlier version is read as it was meant', () => {
    expect(
      readSpec({ name: 'Old', longSide: 1200, sharpen: false, quality: 70, metadata: 'all' }),
    ).toMatchObject({
      ...{ name: 'Old', size: long(1200), sharpen: 'none', quality: 70, metadata: 'all', format: 'jpeg' },
    });
    const now = DEFAULT_OUTPUT_SPECS[1]!;
    expect(readSpec(now)).toEqual(now);
    const { folders: _, ...before } = now;
    expect(readSpec({ ...before, byDay: true })).toEqual({ ...now, folders: 'day' });
    // Where a file lies is no matter of how it is made.
    expect(howMade({ ...before, byDay: true } as never)).toEqual(
      howMade({ ...now, name: 'Other', pattern: 'x' }),
    );
    expect(howMade(now)).not.toEqual(howMade({ ...now, quality: 60 }));
  });
});

describe('what is told in delivered files', () => {
  const all: Description = {
    ...EMPTY_DESCRIPTION,
    ...{
      creator: 'Ana',
      rights: '© Ana',
      caption: 'dusk',
      city: 'Søby',
      country: 'Denmark',
      countryCode: 'DNK',
    },
    ...{ persons: ['Bo'], keywords: ['heron', 'client: unpaid'] },
  };
  const told = (choice: MetadataChoice) =>
    toldToClients(all, choice, (keyword) => !keyword.startsWith('client:'));

  it('is as much as was chosen, and no keyword that is not delivered', () => {
    expect(told('none')).toEqual(EMPTY_DESCRIPTION);
    expect(told('rights')).toEqual({ ...EMPTY_DESCRIPTION, creator: 'Ana', rights: '© Ana' });
    expect(told('butPlaces')).toMatchObject({
      caption: 'dusk',
      city: null,
      countryCode: null,
      keywords: ['heron'],
    });
    expect(told('all')).toMatchObject({
      caption: 'dusk',
      city: 'Søby',
      persons: ['Bo'],
      keywords: ['heron'],
    });
    expect(all.keywords).toHaveLength(2);
    // Of what comes along with a description, nothing.
    const more = { ...all, note: 'cut the pole', frameId: 'x' };
    expect(Object.keys(toldToClients(more, 'all', () => true)).sort()).toEqual(
      Object.keys(EMPTY_DESCRIPTION).sort(),
    );
  });
});

describe('a set that is made again', () => {
  const file = (frameId: string, part: string, recipe: string | null, folder = ''): SetFile => ({
    ...{ frameId, part, recipe },
    to: `${folder}${frameId}-${part}.jpg`,
  });

  it('is told apart by frames and parts, by what its files are made of, and by where they lie', () => {
    const before = [file('a', '0', 'x'), file('a', '1', 'x'), file('b', '0', 'y'), file('c', '0', null)];
    const now = [file('c', '0', 'z'), file('a', '0', 'x'), file('a', '1', 'w'), file('d', '0', 'x')];
    expect(remakePlan(before, now)).toEqual({
      same: [{ before: before[0], now: now[1] }],
      // Nobody kept by what the last one was made.
      changed: [
        { before: before[3], now: now[0] },
        { before: before[1], now: now[2] },
      ],
      fresh: [now[3]],
      gone: [before[2]],
    });
    const elsewhere = file('a', '0', 'x', 'feast/');
    expect(remakePlan([before[0]!], [elsewhere])).toMatchObject({
      ...{ same: [], changed: [{ before: before[0], now: elsewhere }], gone: [] },
    });
  });
});

describe('a bag', () => {
  it('writes line breaks and per cent signs of paths as RFC 8493 asks, and nothing else', () => {
    const lines = [
      { sha256: 'a'.repeat(64), path: 'data/100 %\nof.jpg' },
      { sha256: 'b'.repeat(64), path: 'data/Ærø\\b.jpg' },
    ];
    expect(bagManifestText(lines)).toBe(
      `${'a'.repeat(64)}  data/100 %25%0Aof.jpg\n${'b'.repeat(64)}  data/Ærø\\b.jpg\n`,
    );
  });

  it('says what it holds, a line each, and nothing that nobody says', () => {
    const info = { from: '', words: 'Press\nnight', day: '2026-10-17', bytes: 12, files: 3 };
    expect(bagInfoText(info)).toBe(
      'External-Description: Press night\nBagging-Date: 2026-10-17\nPayload-Oxum: 12.3\nBag-Software-Agent: Arkiv\n',
    );
  });
});

describe('manifest', () => {
  // The form of GNU coreutils, “cksum output modes”.
  it('escapes backslashes and line breaks and says so in front', () => {
    const lines = [
      { sha256: 'a'.repeat(64), path: 'plain name.jpg' },
      { sha256: 'b'.repeat(64), path: 'odd\\na\nme.jpg' },
    ];
    const text = manifestText(lines);
    expect(text.split('\n')[1]).toBe(`\\${'b'.repeat(64)}  odd\\\\na\\nme.jpg`);
    expect(parseManifest(text)).toEqual(lines);
  });
});
