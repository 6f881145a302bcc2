import { useEffect, useRef, useSyncExternalStore } from 'react';
import { useLocation } from 'react-router';
import { screenTitle } from './screenTitle';
import { Unseen } from './Unseen';

/**
 * What a page load does by itself and a change of screen inside the page does not: the focus goes to the new screen's
 * heading, so that Tab goes on from there, and its title is announced.
 */
export function Arrived() {
  const { pathname } = useLocation();
  const title = useSyncExternalStore(screenTitle.subscribe, screenTitle.snapshot);
  const before = useRef(pathname);
  const due = useRef(false);
  useEffect(() => {
    if (before.current !== pathname) due.current = true;
    before.current = pathname;
    const main = document.querySelector('main');
    const heading = main?.querySelector<HTMLElement>('h1');
    // A screen whose code is still on its way has no heading yet; it has one when it tells its title.
    if (!due.current || !heading) return;
    due.current = false;
    // A screen that put the focus somewhere itself knows better.
    if (main!.contains(document.activeElement)) return;
    heading.setAttribute('tabindex', '-1');
    heading.focus({ preventScroll: true });
  }, [pathname, title]);
  return <Unseen status="Screen">{title}</Unseen>;
}
