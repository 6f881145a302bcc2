import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './testArkiv';

describe('the contract', () => {
  it('has one schema for each class name, as two classes of one name would be taken for one', () => {
    const src = path.join(ROOT, 'apps/server/src');
    const names = (readdirSync(src, { recursive: true }) as string[])
      .filter((file) => file.endsWith('.ts'))
      .flatMap((file) =>
        [...readFileSync(path.join(src, file), 'utf8').matchAll(/^(?:export )?class (\w+Dto)\b/gm)].map(
          (m) => m[1],
        ),
      );
    expect(names.length).toBeGreaterThan(50);
    expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
  });
});
