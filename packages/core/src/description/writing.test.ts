import { parseExifTime } from '../time/captureTime';
import { UNMARKED, applyMark, type Marks } from '../marks/marks';
import { keptTexts } from './texts';
import {
  applyTemplate,
  fieldOf,
  replaceIn,
  together,
  writeField,
  writeWords,
  written,
  type FrameChange,
  type Replacement,
} from './writing';

const frame = (id: string, marks: Partial<Marks> = {}) => ({ id, marks: { ...UNMARKED, ...marks } });
/** The marks of one frame after changes. */
const after = ({ id, marks }: ReturnType<typeof frame>, changes: readonly FrameChange[]): Marks =>
  changes
    .filter((change) => change.id === id)
    .reduce<Marks>((now, { field, to }) => applyMark(now, { kind: field, to }), marks);

describe('what is written into a field', () => {
  it.each([
    ['replace', 'Low water', 'Ebb', 'Ebb'],
    ['replace', 'Low water', '  ', null],
    ['add', 'Low water', ' at noon. ', 'Low water at noon.'],
    ['add', 'Two\nlines', 'three', 'Two\nlines\nthree'],
    ['add', 'Low water', ' ', 'Low water'],
    ['add', null, 'Ebb', 'Ebb'],
    ['fill', 'Low water', 'Ebb', 'Low water'],
    ['fill', null, 'Ebb', 'Ebb'],
  ] as const)('by “%s” over %j: %j gives %j', (way, before, typed, expected) =>
    expect(written(before, typed, way)).toBe(expected),
  );

  it('changes only the frames that do not say so yet, each by what it says', () => {
    const frames = [
      frame('a', { caption: 'Pier' }),
      frame('b'),
      frame('c', { texts: keptTexts({ city: 'Hafen' }) }),
    ];
    expect(writeField(frames, 'caption', 'Pier', 'replace')).toEqual([
      { id: 'b', field: 'caption', to: 'Pier' },
      { id: 'c', field: 'caption', to: 'Pier' },
    ]);
    expect(writeField(frames, 'city', 'Süd', 'add').map(({ to }) => to)).toEqual(['Süd', 'Süd', 'Hafen Süd']);
    expect(fieldOf(frames[2]!.marks, 'city')).toBe('Hafen');
  });
});

describe('words that are written as a list', () => {
  it('are all that a frame has then, each once, and change only what is another', () => {
    const its = frame('a', { keywords: 'heron\nfish\nPier', persons: 'Bo' });
    const changes = writeWords(its, 'keywords', 'Heron, ebb;pier\nebb');
    expect(changes).toEqual([
      { id: 'a', field: 'keyword fish', to: false },
      { id: 'a', field: 'keyword ebb', to: true },
    ]);
    expect(after(its, writeWords(its, 'persons', ' ')).persons).toBe('');
  });
});

describe('what frames say together', () => {
  it('is told where all say the same, else how many differ from most', () => {
    expect(together(['a', 'a'])).toEqual({ text: 'a', different: 0 });
    expect(together([null, null])).toEqual({ text: null, different: 0 });
    expect(together(['a', 'a', 'b', null])).toEqual({ text: null, different: 2 });
    expect(together([])).toEqual({ text: null, different: 0 });
  });
});

describe('a template on frames that are here', () => {
  const facts = {
    ...{ shoot: 'Harbour Regatta', capture: parseExifTime('2031:04:18 09:14:07'), seq: 7, original: 'O' },
    ...{ body: '', serial: '', card: '', client: 'Sailing Club', place: 'Köln', creator: 'A. B.', stars: 0 },
  };
  const template = {
    fields: { headline: '{shoot} {capture:yyyy}', city: '{place}', credit: '' },
    keywords: 'boats, {client}',
    persons: 'Ana Pinto',
  };

  it('says its fields with what each frame is, and leaves the rest alone', () => {
    const its = {
      ...frame('a', { keywords: 'Boats', texts: keptTexts({ credit: 'C', city: 'Bonn' }) }),
      facts,
    };
    expect(after(its, applyTemplate([its], template, 'replace'))).toMatchObject({
      keywords: 'Boats\nSailing Club',
      persons: 'Ana Pinto',
      texts: keptTexts({ headline: 'Harbour Regatta 2031', city: 'Köln', credit: 'C' }),
    });
    expect(after(its, applyTemplate([its], template, 'fill')).texts).toBe(
      keptTexts({ headline: 'Harbour Regatta 2031', city: 'Bonn', credit: 'C' }),
    );
  });

  it('changes nothing where all is said already', () => {
    const its = { ...frame('a'), facts };
    const done = { ...its, marks: after(its, applyTemplate([its], template, 'replace')) };
    expect(applyTemplate([done], template, 'replace')).toEqual([]);
  });
});

describe('find and replace', () => {
  const find = (change: Partial<Replacement>): Replacement => ({
    ...{ find: 'heron', by: 'egret', exactCase: false, wholeWords: false },
    ...change,
  });
  const its = frame('a', {
    caption: 'Heron (Herons), $1 heron',
    keywords: 'grey heron\nherons\nfish',
    persons: 'Her. On',
    texts: keptTexts({ headline: 'The heron' }),
  });
  const of = (change: Partial<Replacement>, fields: Parameters<typeof replaceIn>[1] = ['caption']) =>
    after(its, replaceIn([its], fields, find(change)));

  it('finds text, in whatever case, or as it is asked', () => {
    expect(of({}).caption).toBe('egret (egrets), $1 egret');
    expect(of({ exactCase: true }).caption).toBe('Heron (Herons), $1 egret');
    expect(of({ wholeWords: true }).caption).toBe('egret (Herons), $1 egret');
    expect(of({ find: '(Herons)', by: '$&' }).caption).toBe('Heron $&, $1 heron');
    expect(of({ find: '-' }).caption).toBe(its.marks.caption);
    expect(replaceIn([its], ['caption'], find({ find: '' }))).toEqual([]);
  });

  it('knows where words end in any script', () => {
    const greek = frame('g', { caption: 'ερωδιός, ερωδιόςα' });
    const changes = replaceIn([greek], ['caption'], find({ find: 'ερωδιός', wholeWords: true }));
    expect(after(greek, changes).caption).toBe('egret, ερωδιόςα');
  });

  it('goes through the fields that are named, and no others', () => {
    expect(of({}, ['headline'])).toEqual({ ...its.marks, texts: keptTexts({ headline: 'The egret' }) });
  });

  it('makes another keyword of one, and takes it off where nothing is left', () => {
    expect(of({ wholeWords: true }, ['keywords']).keywords).toBe('herons\nfish\ngrey egret');
    expect(of({ find: 'fish', by: ' ' }, ['keywords', 'persons']).keywords).toBe('grey heron\nherons');
    expect(of({ find: 'Her. On', by: 'H. On' }, ['persons']).persons).toBe('H. On');
  });
});
