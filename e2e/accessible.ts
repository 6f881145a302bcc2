import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

/** Nothing that axe knows of WCAG 2.2 A and AA stands on the screen. */
export async function accessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  // What a control is called holds the words that are seen on it (2.5.3), which axe looks at only on request. Frames on
  // a sheet are no controls with a label: their names say in words what rings, strikes and dimming show.
  const names = await new AxeBuilder({ page })
    .withRules(['label-content-name-mismatch'])
    .exclude('[role=option]')
    .analyze();
  expect(
    [...violations, ...names.violations].map(
      (v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`,
    ),
  ).toEqual([]);
}
