import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ACTIONS } from '../../keys/actions';
import { Bindings, shownKey } from '../../keys/bindings';
import { guideHtml } from './guideHtml';
import { GUIDE_LIST, GUIDE_PAGES, guideOf } from './guideOf';

const SOURCE = path.resolve(__dirname, '../..');
const GUIDE = path.resolve(SOURCE, '../../../docs/guide');
const text = (page: string) => readFileSync(path.join(GUIDE, `${page}.md`), 'utf8');
const pages = GUIDE_PAGES.map(([page]) => page);
/** What the first line of a page says of it. */
const said = (page: string) =>
  /^<!-- shown for: (.+); labels from: (.+) -->\n/
    .exec(text(page))!
    .slice(1)
    .map((list) => list.split(' '));

/** All that is written in the program of some screens: its strings and the text between its tags, without line ends. */
function wordsOf(folders: readonly string[]): string {
  const files = folders.flatMap((folder) =>
    readdirSync(path.join(SOURCE, folder), { recursive: true })
      .map(String)
      .filter((name) => /(?<!\.test)\.tsx?$/.test(name))
      .map((name) => path.join(SOURCE, folder, name)),
  );
  return files.map((file) => readFileSync(file, 'utf8').replace(/\s+/g, ' ')).join('\n');
}

describe('the guide', () => {
  it('has the pages that it lists, each for the screens that it says', () => {
    const files = readdirSync(GUIDE).map((name) => name.replace(/\.md$/, ''));
    expect([...files].sort()).toEqual([GUIDE_LIST, ...pages].sort());
    const listed = [...text(GUIDE_LIST).matchAll(/\((\w+)\.md\)/g)].map(([, page]) => page);
    expect(listed).toEqual(pages);
    for (const [page, screens] of GUIDE_PAGES) expect([page, said(page)[0]]).toEqual([page, screens]);
  });

  it.each(pages)('%s quotes only labels that its screens have', (page) => {
    const words = wordsOf(said(page)[1]!);
    const quoted = [...text(page).matchAll(/\*\*([^*]+)\*\*/g)].map(([, label]) => label!);
    expect(quoted.filter((label) => !words.includes(label))).toEqual([]);
  });

  it.each([...pages, GUIDE_LIST])('%s names keys by what they are bound to', (page) => {
    const bindings = new Bindings();
    for (const [, shown, id] of text(page).matchAll(/\[([^\]]+)\]\(key:([\w-]+)\)/g)) {
      const action = ACTIONS.find((one) => one.id === id);
      const first = action && shownKey(bindings.keysOf(action)[0]!);
      expect([id, first?.replaceAll(' ', '+').toLowerCase()]).toEqual([id, shown!.toLowerCase()]);
    }
  });

  it('shows pictures that there are, and leads to pages that there are', () => {
    for (const page of pages)
      for (const [, file] of text(page).matchAll(/\]\(\.\.\/screenshots\/([\w-]+\.png)\)/g))
        expect(() => readFileSync(path.join(GUIDE, '../screenshots', file!))).not.toThrow();
    const html = guideHtml('[next](cull.md) and [how](../formats.md)', {
      ...{ bindings: new Bindings(), picture: () => '' },
    });
    expect(html).toBe('<p><a href="/guide/cull">next</a> and how</p>\n');
  });

  it('shows the keys that are bound now, and says where one has none', () => {
    const shown = (keys: readonly string[]) =>
      guideHtml('<!-- for nobody -->\nPress [f](key:keep).', {
        ...{ bindings: new Bindings({ keep: keys }), picture: () => '' },
      });
    expect(shown(['x'])).toBe('<p>Press <kbd>X</kbd>.</p>\n');
    expect(shown([])).toContain('<kbd>no key</kbd>');
  });

  it.each([
    ['/', 'card'],
    ['/intake/01J', 'card'],
    ['/shoots/01J/cull', 'cull'],
    ['/find/stars/cull', 'cull'],
    ['/find', 'describe'],
    ['/albums/01J', 'describe'],
    ['/shoots/01J/handoff', 'handoff'],
    ['/studio', 'drives'],
    ['/nowhere', GUIDE_LIST],
  ])('of the screen at %s is the page “%s”', (at, page) => expect(guideOf(at)).toBe(page));
});
