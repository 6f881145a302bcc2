import { matchPath } from 'react-router';

/** Pages of the guide in their order, with the screens that they are about; each says the same of itself in its first line. */
export const GUIDE_PAGES: readonly (readonly [page: string, screens: readonly string[]])[] = [
  ['card', ['/', '/arrival', '/intake']],
  ['roads', ['/uploads', '/adopted']],
  ['cull', ['/shoots/:id/cull', '/find/cull', '/shoots/:id/history']],
  ['describe', ['/shoots/:id/describe', '/find', '/albums', '/vocabulary']],
  ['handoff', ['/shoots/:id/handoff']],
  ['deliver', ['/shoots/:id/deliver', '/ledger']],
  ['drives', ['/space', '/bin', '/trail', '/shoots/:id/files', '/studio']],
  ['gone', ['/welcome']],
  ['travel', ['/archives', '/carried/:jobId']],
  ['files', ['/duplicates']],
];
/** The page that lists the others. */
export const GUIDE_LIST = 'README';

/** The page of the guide that is about a screen, by the screen's path; the list where none is. */
export function guideOf(path: string): string {
  const at = path.replace(/^\/find\/[^/]+\/cull$/, '/find/cull');
  const exact = GUIDE_PAGES.find(([, screens]) => screens.some((screen) => matchPath(screen, at)));
  // What lies below a screen is about the same: an album, one intake.
  const near = GUIDE_PAGES.find(([, screens]) =>
    screens.some((screen) => screen !== '/' && matchPath({ path: screen, end: false }, at)),
  );
  return (exact ?? near)?.[0] ?? GUIDE_LIST;
}
