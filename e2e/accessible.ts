import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from './test';

/** What a control is called holds the words that are seen on it (2.5.3); axe looks at it only on request. */
const NAMES = 'label-content-name-mismatch';

/** Nothing that axe knows of WCAG 2.2 A and AA stands on the screen. */
export async function accessible(page: Page): Promise<void> {
  await settled(page);
  const { violations } = await new AxeBuilder({ page })
    // There are no frames in Arkiv's pages: one run, without a second page that puts frames' results together. Only what is wrong
    // is described. Both look at the same and take a third of the time.
    .setLegacyMode()
    .options({
      rules: { [NAMES]: { enabled: true } },
      resultTypes: ['violations'],
      selectors: false,
      preload: false,
    })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  const wrong = violations.flatMap(({ id, nodes }) => {
    // Frames on a sheet are no controls with a label: their names say in words what rings, strikes and dimming show.
    const found = nodes.filter(({ html }) => id !== NAMES || !html.includes('role="option"'));
    return found.length > 0 ? [`${id}: ${found.map(({ html }) => html.slice(0, 120)).join(' | ')}`] : [];
  });
  expect(wrong).toEqual([]);
}

/** What opens or closes has done so: half-way, a dialog is neither there nor gone. What goes round for ever is not waited for. */
async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const ends = document
      .getAnimations()
      .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity);
    await Promise.all(ends.map(({ finished }) => finished.catch(() => undefined)));
    // What is taken away at the end of it is so in the next frame.
    for (let frame = 0; frame < 2; frame++) await new Promise((resolve) => requestAnimationFrame(resolve));
  });
}
