import { matchReturn, type Original, type ReturnedFacts } from './match';
import { seemsWhole } from './whole';

const frame = (n: number, more: Partial<Original> = {}): Original => ({
  id: `id${n}`,
  name: `regatta_${String(n).padStart(4, '0')}`,
  original: `OCK_${9900 + n}`,
  local: `2029-05-01T10:00:${String(n % 60).padStart(2, '0')}`,
  ...more,
});
const FRAMES = Array.from({ length: 30 }, (_, i) => frame(i + 1));
const NOTHING: ReturnedFacts = {
  name: 'untitled',
  frameIds: [],
  derivedFrom: [],
  preserved: null,
  local: null,
};
const of = (facts: Partial<ReturnedFacts>, frames = FRAMES) => matchReturn({ ...NOTHING, ...facts }, frames);

describe('what a picture that came back was made from', () => {
  it('is told by an id before anything else, and by several of them', () => {
    expect(of({ frameIds: ['id7'], name: 'regatta_0001' })).toEqual({
      by: 'id',
      sure: true,
      frames: ['id7'],
    });
    expect(of({ frameIds: ['id7', 'id3', 'gone'] })).toEqual({
      by: 'id',
      sure: true,
      frames: ['id3', 'id7'],
    });
    expect(of({ frameIds: ['gone'], name: 'regatta_0001' })?.by).toBe('name');
  });

  it('is told by the files that it says it was derived from, on whatever system', () => {
    expect(of({ derivedFrom: ['C:\\jobs\\selects\\Regatta_0004.dng'] })).toEqual({
      ...{ by: 'derived', sure: true, frames: ['id4'] },
    });
    expect(of({ derivedFrom: ['/a/regatta_0004.dng', 'OCK_9905.NEF', 'elsewhere.tif'] })).toEqual({
      ...{ by: 'derived', sure: true, frames: ['id4', 'id5'] },
    });
  });

  it('is told by the name that its file had in the camera, and asked for where two had it', () => {
    expect(of({ preserved: 'OCK_9912.CR3' })).toEqual({ by: 'preserved', sure: true, frames: ['id12'] });
    const two = [...FRAMES, frame(31, { original: 'OCK_9912' })];
    expect(of({ preserved: 'OCK_9912.CR3' }, two)).toEqual({
      ...{ by: 'preserved', sure: false, frames: ['id12', 'id31'] },
    });
  });

  it.each([
    ['regatta_0012', 'id12'],
    ['Regatta_0012-bw', 'id12'],
    ['regatta_0012 (2)', 'id12'],
    ['web_regatta_0012_final', 'id12'],
    ['OCK_9903 edit 2', 'id3'],
    // A number that is no frame's.
    ['regatta_0012-2', 'id12'],
    ['regatta_0012-9999', 'id12'],
  ])('is told by its name: %s', (name, id) => {
    expect(of({ name })).toEqual({ by: 'name', sure: true, frames: [id] });
  });

  it('is not told by a name that goes on in letters or digits', () => {
    expect(of({ name: 'regatta_00123' })).toBeNull();
    expect(of({ name: 'oldregatta_0012' })).toBeNull();
    expect(of({ name: 'regatta_0012b' })).toBeNull();
  });

  it('may be several: named one by one, or as a row, of which somebody is asked', () => {
    expect(of({ name: 'regatta_0003+regatta_0005 pano' })).toEqual({
      ...{ by: 'name', sure: true, frames: ['id3', 'id5'] },
    });
    expect(of({ name: 'regatta_0003-0006-pano' })).toEqual({
      ...{ by: 'name', sure: false, frames: ['id3', 'id4', 'id5', 'id6'] },
    });
    // Backwards, and beyond what is there, it is no row.
    expect(of({ name: 'regatta_0006-0003' })).toMatchObject({ sure: true, frames: ['id6'] });
    expect(of({ name: 'regatta_0028-0033' })).toMatchObject({ sure: true, frames: ['id28'] });
    // Nobody stacks a hundred: such a number means something else.
    const many = Array.from({ length: 100 }, (_, i) => frame(i + 1));
    expect(of({ name: 'regatta_0001-0100' }, many)).toMatchObject({ sure: true, frames: ['id1'] });
  });

  it('is asked for where two frames of different folders have one name, and the longer name is meant', () => {
    const two = [...FRAMES, frame(40, { name: 'regatta_0012' })];
    expect(of({ name: 'regatta_0012-bw' }, two)).toEqual({
      by: 'name',
      sure: false,
      frames: ['id12', 'id40'],
    });
    const days = [frame(1, { name: 'day_2' }), frame(2, { name: 'day_2_0001' })];
    expect(of({ name: 'day_2_0001-bw' }, days)).toMatchObject({ sure: true, frames: ['id2'] });
  });

  it('is at most asked for by its time, and unknown without anything', () => {
    expect(of({ local: '2029-05-01T10:00:09' })).toEqual({ by: 'time', sure: false, frames: ['id9'] });
    expect(of({})).toBeNull();
    expect(of({ name: 'regatta_0012' }, [])).toBeNull();
  });
});

describe('a file that comes back', () => {
  const bytes = (...list: number[]) => Uint8Array.from(list);
  const tiff = (at: number) => bytes(0x49, 0x49, 42, 0, at, 0, 0, 0, ...Array<number>(8).fill(0));

  it.each([
    ['jpeg', bytes(0xff, 0xd8, 0xff), bytes(1, 2, 0xff, 0xd9, 0, 0), 9, true],
    ['jpeg', bytes(0xff, 0xd8, 0xff), bytes(1, 2, 3), 9, false],
    ['jpeg', bytes(0, 0, 0), bytes(0xff, 0xd9), 9, false],
    ['png', bytes(0x89, 0x50, 0x4e, 0x47), bytes(0, 0x49, 0x45, 0x4e, 0x44, 1, 2, 3, 4), 9, true],
    ['png', bytes(0x89, 0x50, 0x4e, 0x47), bytes(0, 0), 9, false],
    ['webp', bytes(0x52, 0x49, 0x46, 0x46, 92, 0, 0, 0), bytes(), 100, true],
    ['webp', bytes(0x52, 0x49, 0x46, 0x46, 92, 0, 0, 0), bytes(), 60, false],
    ['tiff', tiff(90), bytes(), 100, true],
    ['tiff', tiff(90), bytes(), 60, false],
    ['tiff', tiff(0), bytes(), 100, false],
    ['heic', bytes(), bytes(), 100, true],
    ['heic', bytes(), bytes(), 0, false],
  ])('%s is whole or still being written', (format, head, tail, size, whole) => {
    expect(seemsWhole(format, head, tail, size)).toBe(whole);
  });
});
