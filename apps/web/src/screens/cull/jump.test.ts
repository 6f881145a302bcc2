import { jumpTo } from './jump';

const FRAMES = [
  { name: 'press-night_0041', time: '2031-04-18T09:13:59.000' },
  { name: 'press-night_0042', time: '2031-04-18T09:14:00.000' },
  { name: 'press-night_0118', time: '2031-04-18T10:00:01.000' },
  { name: 'Backstage_0007', time: null },
  { name: 'encore_0042', time: '2031-04-18T23:10:00.000' },
];
const jump = (text: string, from = 0) => jumpTo(text, FRAMES.length, (i) => FRAMES[i]!, from);

describe('what is typed to go to', () => {
  it.each([
    ['118', 2],
    ['0118', 2],
    ['11', 2],
    ['9:14', 1],
    ['09:13', 0],
    ['10', -1],
    ['10:', 2],
    ['10:00:02', 4],
    ['23:59', 4],
    ['back', 3],
    ['STAGE', 3],
    ['encore', 4],
    ['', -1],
    ['zz', -1],
    ['999', -1],
  ])('%s leads to frame %i', (text, i) => expect(jump(text)).toBe(i));

  it('leads to the next of several, and then begins anew', () => {
    expect(jump('42', 0)).toBe(1);
    expect(jump('42', 1)).toBe(4);
    expect(jump('42', 4)).toBe(1);
    expect(jump('42', 2)).toBe(4);
  });
});
