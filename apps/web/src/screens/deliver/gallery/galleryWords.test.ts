import type { Api } from '../../../data/http';
import { becomesWords, choiceWords, otherWords, rightsWords, stateWords } from './galleryWords';

const DAY = 24 * 60 * 60 * 1000;
const NOW = Date.UTC(2026, 10, 28, 12);
const GALLERY = {
  ...{
    frames: 21,
    line: '',
    watermark: '',
    until: NOW + 3 * DAY,
    closedAt: null,
    most: 8,
    chosen: [],
    sent: null,
  },
} as unknown as Api['GalleryDto'];

describe('A gallery, in words', () => {
  it('says what it shows and how long', () => {
    expect(stateWords(GALLERY, NOW)).toMatch(/^21 pictures · open until /);
    expect(stateWords({ ...GALLERY, until: null, line: 'stars:5', watermark: 'Ockham' }, NOW)).toBe(
      '21 pictures · keepers: stars:5 · with “Ockham” over them · open',
    );
    expect(stateWords(GALLERY, NOW + 4 * DAY)).toMatch(/ · was open until /);
    expect(stateWords({ ...GALLERY, closedAt: NOW }, NOW)).toMatch(/ · closed /);
  });

  it('says where the choice stands, and nothing where none is asked for', () => {
    expect(choiceWords(GALLERY)).toBe('0 of 8 chosen');
    expect(choiceWords({ ...GALLERY, most: 0 })).toBe('0 chosen');
    expect(choiceWords({ ...GALLERY, most: null })).toBe('');
    expect(choiceWords({ ...GALLERY, sent: { by: 'Wilma', at: NOW } })).toMatch(
      /^0 of 8 chosen, sent by Wilma /,
    );
  });

  it('says what comes of being chosen', () => {
    const stages = [{ id: 's1', name: 'to edit' }];
    const becomes = (kind: string, value: unknown) => becomesWords({ kind, value } as never, stages);
    expect(becomes(`pile ${'0'.repeat(26)}`, true)).toContain('pile of their own');
    expect(becomes('stage', 's1')).toContain('“to edit”');
    expect(becomes('stars', 1)).toContain('1 star.');
    expect(becomes('label', 'A')).toContain('label A');
    expect(becomesWords(null, stages)).toContain('Nothing else');
  });

  it('says what is other by now, and what a link allows', () => {
    expect(otherWords({ fresh: 2, gone: 1 })).toBe(
      '2 pictures new or other by now, 1 picture no part of it any more',
    );
    expect([otherWords({ fresh: 0, gone: 0 }), otherWords(null)]).toEqual(['', '']);
    expect(rightsWords({ choose: false, remark: false, download: false })).toBe('may look');
    expect(rightsWords({ choose: true, remark: false, download: true })).toBe(
      'may look, choose, take files along',
    );
  });
});
