import { cameWords, placeWords, kindWords, valueWords } from './bothWords';
import { carriedWords } from '../desk/carriedWords';

const NAMES = { labels: { M: 'Album' }, stages: [{ id: 'edit', name: 'being edited' }] };

describe('What was decided on both sides', () => {
  it.each([
    ['stars', 4, 'stars', '4★'],
    ['stars', 0, 'stars', 'none'],
    ['label', 'M', 'label', 'Album'],
    ['label', null, 'label', 'none'],
    ['stage', 'edit', 'stage', 'being edited'],
    ['note', 'crop it', 'note', 'crop it'],
    ['keyword heron', true, 'keyword “heron”', 'yes'],
    ['text headline', 'A night', 'headline', 'A night'],
    ['album 01J00000000000000000000000', 'a0', 'place in an album', 'in it'],
    ['verdict', 'reject', 'verdict', 'reject'],
  ])('of %s %j is said as “%s: %s”', (kind, value, called, said) => {
    expect([kindWords(kind), valueWords(kind, value, NAMES)]).toEqual([called, said]);
  });

  it('is told before, apart from shoots that are not here', () => {
    const [known, fresh] = [{ known: true }, { known: false }];
    expect(carriedWords([fresh, fresh])).toBe(
      '2 shoots come here with all that was decided and where it came from.',
    );
    expect(carriedWords([known])).toContain('What was decided elsewhere of 1 shoot that is here');
    expect(carriedWords([fresh, known])).toContain('1 shoot comes here');
  });

  it('stands beside how much came', () => {
    expect(cameWords({ shoots: 1, frames: 0, decisions: 6 })).toBe(
      '1 shoot was taken in: 6 decisions that were not known here.',
    );
    expect(cameWords({ shoots: 2, frames: 1, decisions: 0 })).toContain(
      '2 shoots were taken in: 1 frame that was',
    );
    expect(cameWords({ shoots: 1, frames: 0, decisions: 0 })).toContain('nothing in it was new');
  });

  it('says where a frame went on the way, and its name where that is another', () => {
    const here = 'night_0001';
    expect(placeWords({ here, name: here, place: '2026/night/rejects' })).toBe('night_0001 → rejects');
    expect(placeWords({ here, name: 'gala', place: '2026/night/originals' })).toBe(
      'night_0001 → originals/gala',
    );
  });
});
