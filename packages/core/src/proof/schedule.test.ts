import fc from 'fast-check';
import { daysReading, ofToday } from '../index';

const DAY = 24 * 60 * 60 * 1000;

describe('what is read again of a drive each day', () => {
  it('begins when a proof is half as old as it may become, and takes as much as has all done by then', () => {
    expect(daysReading({ bytes: 900, days: 180, now: 1000 * DAY })).toEqual({ before: 910 * DAY, bytes: 10 });
  });

  it('takes the oldest first, at least one file, and no more than the day’s share', () => {
    const due = [5, 4, 3].map((size) => ({ size }));
    expect(ofToday(due, { bytes: 9 })).toEqual(due.slice(0, 2));
    expect(ofToday(due, { bytes: 1 })).toEqual(due.slice(0, 1));
    expect(ofToday([], { bytes: 9 })).toEqual([]);
  });

  it('reads every file of a drive that is always there before its proof is too old, whatever their sizes', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1000 }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 4, max: 60 }),
        (sizes, days) => {
          const files = sizes.map((size) => ({ size, proof: 0 }));
          const bytes = sizes.reduce((sum, size) => sum + size, 0);
          // A day's share is bytes, files are whole: what does not fit today is first tomorrow.
          const late = Math.ceil(Math.max(...sizes) / Math.ceil(bytes / (days / 2))) + files.length;
          for (let day = 1; day <= days * 3; day++) {
            const now = day * DAY;
            const asked = daysReading({ bytes, days, now });
            const due = files.filter(({ proof }) => proof < asked.before).sort((a, b) => a.proof - b.proof);
            for (const file of ofToday(due, asked)) file.proof = now;
            expect(Math.max(...files.map(({ proof }) => now - proof))).toBeLessThanOrEqual(
              (days + late) * DAY,
            );
          }
        },
      ),
    );
  });
});
