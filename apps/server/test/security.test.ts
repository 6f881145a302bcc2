import { readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './testArkiv';

/** A line of the page: what threatens, what holds, and the test by which that is seen. */
const lines = readFileSync(path.join(ROOT, 'docs/security.md'), 'utf8')
  .split('\n')
  .filter((line) => /^\| [^-|]/.test(line))
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .filter((cells) => cells.length === 5 && cells[3] !== 'test');

describe('what is said of security', () => {
  it('is much, and each of it has a test', () => {
    expect(lines.length).toBeGreaterThan(30);
    const without = lines.filter(([, , , test], i) =>
      test === 'the same' ? i === 0 : !/^`[^`]+\.ts` “[^”]+”$/.test(test!),
    );
    expect(without).toEqual([]);
  });

  it.each(lines.filter(([, , , test]) => test !== 'the same').map(([, threat, , test]) => [threat!, test!]))(
    'against “%s” is seen by a test that is there',
    (_, test) => {
      const [, file = '', title = ''] = /^`([^`]+)` “([^”]+)”$/.exec(test)!;
      expect(readFileSync(path.join(ROOT, file), 'utf8')).toContain(`'${title}'`);
    },
  );
});
