import { parseExifTime } from '../time/captureTime';
import {
  collisionKey,
  legalOriginal,
  MAX_NAME_BYTES,
  nameProblem,
  shortBase,
  shortened,
  shownName,
  toNamePart,
  unreserved,
} from './legalName';
import { namesTogether } from './together';
import { describePatternProblem, parsePattern, renderPattern, type NameFacts } from './pattern';

const facts: NameFacts = {
  shoot: 'Harbour Regatta',
  capture: parseExifTime('2031:04:18 09:14:07'),
  seq: 7,
  original: 'OCK_0412',
  body: 'Ockham Five',
  serial: 'X/1',
  card: 'card a',
  client: '',
  place: 'Köln: Süd',
  creator: 'A. B.',
  stars: 3,
};
const render = (pattern: string) => {
  const parsed = parsePattern(pattern);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problem));
  return renderPattern(parsed.tokens, facts);
};

describe('name patterns', () => {
  it.each([
    ['{shoot}_{capture:yyyyMMdd}_{number:4}', 'harbour-regatta_20310418_0007'],
    // As it was written before.
    ['{shoot}_{seq:4}', 'harbour-regatta_0007'],
    ['{original}', 'OCK_0412'],
    ['{place}-{number:2}', 'köln-süd-07'],
    ['{serial}{stars}', 'x-13'],
    ['{capture}', '20310418'],
    ['{client}x', 'x'],
  ])('make %s into %s', (pattern, name) => expect(render(pattern)).toBe(name));

  it('let a sequence outgrow its width rather than cut it', () => {
    const parsed = parsePattern('{number:2}');
    expect(parsed.ok && renderPattern(parsed.tokens, { ...facts, seq: 1234 })).toBe('1234');
  });

  it.each([
    ['{shot}', { kind: 'unknown-field', field: 'shot' }],
    ['{constructor}', { kind: 'unknown-field', field: 'constructor' }],
    ['{number:x}', { kind: 'bad-format', field: 'number', format: 'x' }],
    ['{seq:0}', { kind: 'bad-format', field: 'number', format: '0' }],
    ['{capture:YYYY}', { kind: 'bad-format', field: 'capture', format: 'YYYY' }],
    ['{number', { kind: 'unclosed' }],
  ])('refuse %s', (pattern, problem) => expect(parsePattern(pattern)).toEqual({ ok: false, problem }));

  it('name the unknown field and what there is instead', () => {
    expect(describePatternProblem('{shot}', { kind: 'unknown-field', field: 'shot' })).toMatch(
      /“shot”.*does not exist.*shoot, capture/,
    );
  });
});

// Microsoft, “Naming Files, Paths, and Namespaces”; POSIX for the slash and NUL.
describe('legal names', () => {
  it.each([
    ['con', 'reserved'],
    ['NUL.txt', 'reserved'],
    ['com1.jpg', 'reserved'],
    ['a:b', 'character'],
    ['a\u0007', 'character'],
    ['a.', 'ending'],
    ['a ', 'ending'],
    ['..', 'empty'],
    ['', 'empty'],
    ['é'.repeat(128), 'too-long'],
  ])('refuse “%s” as %s', (name, problem) => expect(nameProblem(name)).toBe(problem));

  it.each(['console.jpg', 'a b.jpg', 'é'.repeat(127), '照片_0001.dng'])('allow “%s”', (name) =>
    expect(nameProblem(name)).toBeNull(),
  );

  it('make any text fit to be part of a name', () => {
    expect(toNamePart('  A/B: "C"?  ')).toBe('a-b-c');
    expect(toNamePart('...')).toBe('');
  });

  it('are made of whatever a card calls its files', () => {
    expect(legalOriginal('a:b\u0001?.x')).toBe('a_b__.x');
    expect(unreserved('CON')).toBe('_CON');
    expect(new TextEncoder().encode(shortBase('写'.repeat(100))).length).toBeLessThanOrEqual(
      MAX_NAME_BYTES - 32,
    );
    expect(shortened('a📷b', 4)).toBe('a');
  });

  it('are shown with what could deceive the eye', () => {
    const seen = (name: string) => shownName(name).replace(/[\u2066-\u2069]/g, '');
    expect(seen('a\u200cb/\u202egpj.exe')).toBe('a‹200C›b/‹202E›gpj.exe');
    // In these a joiner is spelling.
    expect(shownName('مهمانی\u200cها')).toBe('\u2068مهمانی\u200cها\u2069');
    expect(shownName('क्\u200dष')).toBe('क्\u200dष');
    expect(shownName('мир 写真_0001.JPG')).toBe('мир 写真_0001.JPG');
  });

  it('stay apart where frames come together, the same for a frame each time', () => {
    const frame = (id: string, name: string, folder = 'F') => ({ id, name, folder });
    const all = [frame('1', 'A'), frame('2', 'a'), frame('3', 'A', 'G'), frame('4', 'A_2'), frame('5', 'A')];
    const names = namesTogether(all);
    expect([...names.values()]).toEqual(['A', 'a_2', 'A', 'A_2_2', 'A_3']);
    expect(namesTogether([...all].reverse())).toEqual(names);
  });

  it('collide when only case or composition differs', () => {
    expect(collisionKey('A/Stra\u00dfe.JPG')).toBe(collisionKey('a/STRASSE.jpg'));
    expect(collisionKey('e\u0301.jpg')).toBe(collisionKey('\u00c9.jpg'));
    expect(collisionKey('a.jpg')).not.toBe(collisionKey('b.jpg'));
  });
});
