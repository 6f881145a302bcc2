import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { QueryFrame } from './fields';
import { describe as sentence, filterProblem, matches } from './filter';
import { lineFilter, partsOfLine, withoutPart, withPart, type LineContext } from './line';
import { lineValue, typedEnd } from './lineTokens';

const FRAME: QueryFrame = {
  ...{
    name: 'pier-walk_20290418_0118',
    lies: '2029/pier-walk/originals',
    original: 'OCK_0118',
    verdict: 'keep',
    stars: 4,
    label: 'M',
    note: null,
    stage: null,
  },
  ...{
    take: null,
    instant: 1,
    body: 'Ockham Five',
    lens: '400 mm f/5.6',
    aperture: 8,
    exposure: 1 / 1600,
    iso: 400,
  },
  ...{ focalLength: 400, role: 'original', format: 'dng+jpeg', raw: 'pair', sign: null, detail: 'full' },
  ...{
    sharpness: 50,
    advice: '',
    voice: null,
    edited: null,
    finished: null,
    finish: '',
    piles: 'P1',
    albums: 'A1:a0+A2:a1',
    caption: 'White heron with a fish at the North Pier',
  },
  ...{ keywords: 'heron\ngrey heron', persons: 'Ana Pinto', texts: '{"city":"Lagoa"}' },
  ...{ shoot: 'Pier walk', client: 'Harbour Trust', place: 'Old Harbour', taken: 202904180914 },
  ...{ delivered: 'delivered', drives: 'D1+D2' },
};
const CONTEXT: LineContext = {
  labels: { A: 'Album', M: 'Magazine' },
  piles: [{ id: 'P1', name: 'Best of spring' }],
  albums: [
    { id: 'A1', name: 'Birds', filter: () => ({ field: 'albums', oneOf: ['A1', 'A2'] }) },
    { id: 'A3', name: 'Storks', filter: () => ({ field: 'albums', is: 'A3' }) },
  ],
  drives: [
    { id: 'D1', name: 'Shelf 1' },
    { id: 'D3', name: 'Shelf 3' },
  ],
  meant: (condition, text) => (condition !== 'phrase' && text === 'bird' ? ['heron', 'stork'] : []),
};

const docs = readFileSync(path.join(__dirname, '../../../../docs/formats.md'), 'utf8');
const table = /## A line of words and facts\n[\s\S]*?\n\|[-| ]+\|\n((?:\|.*\n)+)/.exec(docs)![1]!;
const examples = table
  .trim()
  .split('\n')
  .map((row) => row.split(/(?<!\\)\|/).slice(1, -1))
  .map(([line, says, found]) => ({
    line: line!.trim().slice(1, -1).replace(/\\\|/g, '|'),
    says: says!.trim().replace(/\\\|/g, '|'),
    found: found!.trim() === 'yes',
  }));

describe('the lines of docs/formats.md', () => {
  it('are many', () => expect(examples.length).toBeGreaterThan(30));

  it.each(examples)('$line says “$says”', ({ line, says, found }) => {
    const parts = partsOfLine(line, CONTEXT);
    expect(parts.map(({ words }) => words).join(' · ')).toBe(says);
    const filter = lineFilter(parts);
    expect(filterProblem(filter)).toBeNull();
    expect(matches(filter, FRAME)).toBe(found);
    // Each part stands where it says.
    for (const part of parts) {
      expect(line.slice(part.from, part.to).trim()).not.toBe('');
      expect(partsOfLine(line.slice(part.from, part.to), CONTEXT).map(({ words }) => words)).toEqual([
        part.words,
      ]);
    }
  });
});

describe('a line of words and facts', () => {
  const found = (line: string, context: LineContext = CONTEXT) =>
    matches(lineFilter(partsOfLine(line, context)), FRAME);

  it('takes the last word as the beginning of one while it is typed', () => {
    expect(found('her')).toBe(false);
    expect(found('her', { ...CONTEXT, typing: true })).toBe(true);
    expect(found('her ', { ...CONTEXT, typing: true })).toBe(false);
    expect(found('her fish', { ...CONTEXT, typing: true })).toBe(false);
    expect(found('keyword:her', { ...CONTEXT, typing: true })).toBe(true);
    expect(found('"white her', { ...CONTEXT, typing: true })).toBe(false);
    expect(found('her*')).toBe(true);
    // A single letter asks for nothing yet.
    expect(partsOfLine('stork x', { ...CONTEXT, typing: true }).map(({ words }) => words)).toEqual(['stork']);
    expect(partsOfLine('x ', { ...CONTEXT, typing: true }).map(({ words }) => words)).toEqual(['x']);
  });

  it('finds by a word what stands below it in the vocabulary', () => {
    expect(found('bird')).toBe(true);
    expect(found('bird', {})).toBe(false);
    expect(found('-bird')).toBe(false);
    expect(found('keyword:bird')).toBe(true);
    expect(found('"bird"')).toBe(false);
  });

  it('says what nobody can be asked, and hides nothing by it', () => {
    const parts = partsOfLine('pile:nowhere heron label:zzz iso:many stars:x drive:', CONTEXT);
    expect(parts.map(({ problem }) => problem)).toEqual([
      'No pile is called “nowhere”.',
      undefined,
      'No label is called “zzz”.',
      '“many” is no number.',
      '“x” is no number.',
      'Nothing stands behind “drive:”.',
    ]);
    expect(matches(lineFilter(parts), FRAME)).toBe(true);
    const [part] = partsOfLine('drive:shelf', { ...CONTEXT, unknown: ['drives'] });
    expect(part!.problem).toBe('“drive” can be asked for in Find only.');
  });

  it('asks for a folder with all that lies below it', () => {
    const [part] = partsOfLine('below:"Old pictures/2029"', CONTEXT);
    expect(part).toMatchObject({
      words: 'below Old pictures/2029',
      filter: { field: 'lies', within: 'Old pictures/2029' },
    });
    expect(partsOfLine('below:/', CONTEXT)[0]).toMatchObject({
      words: 'all folders',
      filter: { field: 'lies', within: '' },
    });
    const lies = (place: string) => matches(part!.filter, { ...FRAME, lies: place });
    expect(['Old pictures/2029', 'Old pictures/2029/raw'].map(lies)).toEqual([true, true]);
    expect(['Old pictures', 'Old pictures/2029 b', 'a/Old pictures/2029'].map(lies)).toEqual([
      false,
      false,
      false,
    ]);
  });

  it('is empty where nothing is asked', () => {
    for (const line of ['', '   ', '- — “” ,', '""']) {
      expect(partsOfLine(line, CONTEXT)).toEqual([]);
      expect(sentence(lineFilter([]))).toBe('');
    }
  });

  it('tells what is being typed at its end, and of which field', () => {
    expect(typedEnd('heron -Keyword:grey')).toEqual({ field: 'keyword', text: 'grey' });
    expect(typedEnd('heron "north pi')).toEqual({ field: null, text: 'north pi' });
    expect(typedEnd('shoot:"the \\"blue\\" b')).toEqual({ field: 'shoot', text: 'the "blue" b' });
    for (const whole of ['', 'heron ', 'heron "north pier"', 'shoot:"the \\"blue\\" ball"'])
      expect(typedEnd(whole)).toBeNull();
  });

  it('gets parts and loses them', () => {
    const line = 'heron  ≥4★ "North Pier"';
    const parts = partsOfLine(line);
    expect(withoutPart(line, parts[1]!)).toBe('heron "North Pier"');
    expect(withoutPart(line, parts[2]!)).toBe('heron  ≥4★');
    expect(withPart('heron ', 'iso400')).toBe('heron iso400');
    expect(withPart('', 'iso400')).toBe('iso400');
  });

  it('holds any value whole, with quotation marks, bars and backslashes of its own', () => {
    const pieces = [
      'grey heron',
      'none',
      'any',
      'a|b',
      '"',
      '“',
      '”',
      '„',
      '\\',
      ' ',
      '-',
      '=',
      '*',
      'so',
      '(',
    ];
    const values = fc.string({ unit: fc.constantFrom(...pieces), minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(values, (value) => {
        fc.pre(value.trim() !== '');
        const line = `heron keyword=${lineValue(value)} ≥4★`;
        const [, part, last] = partsOfLine(line);
        expect(part!.filter).toEqual({ field: 'keywords', is: value.trim() });
        expect(part!.words).toBe(`keyword ${value}`);
        // Places in the line stay those of what was typed.
        expect(line.slice(last!.from)).toBe('≥4★');
      }),
    );
    expect(partsOfLine('"the \\"blue\\" ball"')[0]!.words).toBe('“the "blue" ball”');
    // Before anything else a backslash is what it is.
    expect(partsOfLine('a\\b')[0]!.words).toBe('a\\b');
  });

  it('reads whatever is typed', () => {
    const pieces = [
      'heron',
      '"',
      '“',
      '|',
      '-',
      ':',
      '=',
      '4★',
      'iso',
      '400',
      'mm',
      'f/',
      '1/',
      '..',
      '2029-',
      '*',
      ' ',
    ];
    let seed = 7;
    const random = (n: number) => (seed = (seed * 48_271) % 2_147_483_647) % n;
    for (let round = 0; round < 3000; round++) {
      const line = Array.from({ length: 1 + random(8) }, () => pieces[random(pieces.length)]!).join('');
      const parts = partsOfLine(line, { ...CONTEXT, typing: round % 2 === 0 });
      expect([line, filterProblem(lineFilter(parts))]).toEqual([line, null]);
      for (const { from, to } of parts) expect(to).toBeGreaterThan(from);
    }
  });
});
