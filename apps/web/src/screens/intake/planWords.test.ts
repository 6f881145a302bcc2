import type { MetadataTemplate, SplitPart } from '@arkiv/core';
import { mediumDay } from '../../data/format';
import type { Api } from '../../data/http';
import { driveWords, hoursOf, lastNumber, nearest, sharesOf, stampWords } from './planWords';

const part = (keys: string[], day: string | null = '2026-10-04'): SplitPart => ({
  keys,
  day,
  from: day && '12:03',
  to: day && '13:00',
});
const shoot = (over: Partial<Api['ShootDto']>) =>
  ({
    id: over.title,
    date: '2026-10-04',
    createdAt: 0,
    seqBy: 'shoot',
    nextSeq: 1,
    ...over,
  }) as Api['ShootDto'];
const drive = (over: Partial<Api['VolumeDto']>) =>
  ({ online: true, readOnly: false, free: 2_000_000_000, nearlyFull: false, ...over }) as Api['VolumeDto'];
const fields = { title: 'Regatta', date: '2026-10-04', client: 'Pond club', place: 'The pond' };

describe('the shoots that a card becomes', () => {
  it('is one with everything while nothing is split', () => {
    expect(sharesOf([part(['a', 'b'])], fields, {})).toEqual([{ fields, part: null, extras: true }]);
  });

  it('are numbered after the first one’s title, on their own days, with what belongs to no frame in the first', () => {
    const shares = sharesOf([part(['a']), part(['b'], '2026-10-05'), part(['c'], null)], fields, {});
    expect(shares.map((s) => [s.fields.title, s.fields.date, s.extras])).toEqual([
      ['Regatta', '2026-10-04', true],
      ['Regatta 2', '2026-10-05', false],
      ['Regatta 3', '2026-10-04', false],
    ]);
    expect(shares[1]!.fields.client).toBe('Pond club');
  });

  it('take titles of their own where they are typed, and stay without one while the first has none', () => {
    const parts = [part(['a']), part(['b'])];
    expect(sharesOf(parts, fields, { b: ' Prize giving ' })[1]!.fields.title).toBe('Prize giving');
    expect(sharesOf(parts, { ...fields, title: '  ' }, {})[1]!.fields.title).toBe('');
  });
});

describe('what the plan says in words', () => {
  it('names the hours of a part, or only its frames where the camera wrote no time', () => {
    expect(hoursOf(part(['a', 'b']))).toBe(`${mediumDay('2026-10-04')}, 12:03–13:00 · 2 frames`);
    expect(hoursOf(part(['a'], null))).toBe('1 frame');
  });

  it('says how much is stamped, and over what', () => {
    const template = (its: Partial<MetadataTemplate>) =>
      stampWords({ id: '', name: '', mode: 'replace', fields: {}, keywords: '', ...its } as MetadataTemplate);
    expect(template({ fields: { creator: 'A', credit: 'B', rights: '' }, keywords: 'x' })).toBe(
      '2 fields and keywords, over what the camera wrote',
    );
    expect(template({ mode: 'fill', fields: { creator: 'A' } })).toBe(
      '1 field, only where the camera wrote nothing',
    );
    expect(template({ keywords: '  ' })).toBe('nothing, over what the camera wrote');
  });

  it('says of a drive why it cannot be chosen, or how much room it has', () => {
    expect(driveWords(drive({ online: false }))).toBe('not connected');
    expect(driveWords(drive({ readOnly: true }))).toBe('read-only');
    expect(driveWords(drive({}))).toBe('2 GB free');
    expect(driveWords(drive({ nearlyFull: true }))).toBe('2 GB free, nearly full');
  });
});

describe('numbers and shoots to carry on from', () => {
  it('are those of the newest shoot whose numbers are carried on, of any where there is none, or begin at 1', () => {
    const plain = shoot({ title: 'new', createdAt: 9, nextSeq: 40 });
    const carried = shoot({ title: 'old', createdAt: 5, nextSeq: 1207, seqBy: 'carried' });
    expect(lastNumber([plain, carried])).toBe(1207);
    expect(lastNumber([plain])).toBe(40);
    expect(lastNumber([])).toBe(1);
  });

  it('come nearest day first, at most thirty', () => {
    const days = Array.from({ length: 40 }, (_, i) =>
      shoot({ title: `${i}`, date: new Date(Date.UTC(2026, 0, 1 + i)).toISOString().slice(0, 10) }),
    );
    const near = nearest(days, '2026-01-11');
    expect(near).toHaveLength(30);
    expect(near[0]!.title).toBe('10');
    expect(
      near
        .slice(1, 3)
        .map((s) => s.title)
        .sort(),
    ).toEqual(['11', '9']);
  });
});
