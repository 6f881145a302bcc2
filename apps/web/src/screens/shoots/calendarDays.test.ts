import { dayBeside, daysOfYear } from './calendarDays';

describe('the days of a year', () => {
  it('stand by month and day, weekends told', () => {
    const months = daysOfYear(2028);
    expect(months.map(({ days }) => days.filter((day) => day !== null).length)).toEqual([
      31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31,
    ]);
    expect(daysOfYear(2029)[1]!.days[28]).toBeNull();
    expect(months[0]!.days.slice(0, 3)).toEqual([
      { key: '01-01', weekend: true },
      { key: '01-02', weekend: true },
      { key: '01-03', weekend: false },
    ]);
  });

  it('are walked by keys, and end with the year', () => {
    const go = (day: string, key: string) => dayBeside(2029, day, key);
    expect([go('02-28', 'ArrowRight'), go('03-01', 'ArrowLeft')]).toEqual(['03-01', '02-28']);
    expect([go('03-31', 'ArrowUp'), go('01-31', 'ArrowDown')]).toEqual(['02-28', '02-28']);
    expect([go('12-31', 'ArrowRight'), go('01-01', 'ArrowLeft'), go('12-05', 'ArrowDown')]).toEqual([
      ...['12-31', '01-01', '12-05'],
    ]);
    expect([go('02-10', 'Home'), go('02-10', 'End'), go('02-10', 'x')]).toEqual(['02-01', '02-28', null]);
  });
});
