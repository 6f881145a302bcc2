import { test as base, type BrowserContext } from '@playwright/test';

export { expect, devices } from '@playwright/test';
export type { APIRequestContext, Browser, BrowserContext, Locator, Page, Route } from '@playwright/test';

let profile: BrowserContext | null = null;

/**
 * Tests of one browser, as a photographer has one: what it has read of the application stays in its cache (reading and compiling that
 * anew was half of opening a page). Each begins with no page open and nothing kept in it.
 */
export const test = base.extend({
  context: async ({ browser, baseURL }, use) => {
    profile ??= await browser.newContext();
    const context = profile;
    await use(context);
    await context.unrouteAll({ behavior: 'ignoreErrors' });
    const [last, ...others] = context.pages();
    for (const page of others) await page.close();
    const page = last ?? (await context.newPage());
    // A page that is left may keep something last.
    await page.goto('about:blank');
    const devtools = await context.newCDPSession(page);
    await devtools.send('Storage.clearDataForOrigin', {
      origin: new URL(baseURL!).origin,
      storageTypes: 'cookies,local_storage,indexeddb,service_workers',
    });
    await context.clearPermissions();
    await page.close();
  },
});
