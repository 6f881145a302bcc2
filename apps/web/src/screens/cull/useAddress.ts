import { useCallback, useEffect, useRef, type Dispatch } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { addressed, addressOf, isStep } from './address';
import type { CullAction, CullState } from './cullState';

/** Milliseconds of rest before the address follows: a held key goes by without it, and a typed filter is one step. */
const REST = 300;

/**
 * Keeps view, filter and frame in the address, and goes where Back, Forward or a link lead. Returns how the screen is left by a key: whoever
 * comes back finds it as it was, however fast the keys came.
 */
export function useAddress(
  state: CullState,
  current: string | null,
  dispatch: Dispatch<CullAction>,
): (to: string) => void {
  const navigate = useNavigate();
  const { pathname, search, key } = useLocation();
  /** the address as this window last wrote or read it */
  const known = useRef(search);
  /** what was written and has not been seen in the address yet: it comes when the screen has time for it */
  const coming = useRef<string[]>([]);
  useEffect(() => {
    const mine = coming.current.indexOf(search);
    coming.current = coming.current.slice(mine + 1);
    if (mine >= 0 || search === known.current) return;
    known.current = search;
    const asked = addressed(search);
    if (asked) dispatch({ type: 'address', ...asked });
    // By its key: what was written below is not known to the router, which may be sent to what it knows already.
  }, [search, key, dispatch]);
  const wanted = addressOf(state, current);
  useEffect(() => {
    const timer = setTimeout(() => {
      if (wanted === known.current || current === null) return;
      // The hand has gone on to another screen, which comes as soon as it is drawn.
      if (window.location.pathname !== pathname) return;
      const step = isStep(known.current, wanted);
      known.current = wanted;
      // Past the router, which would draw every screen's links anew: the next frame's address is nobody else's business.
      if (!step) return window.history.replaceState(window.history.state, '', pathname + wanted);
      coming.current.push(wanted);
      void navigate({ search: wanted });
    }, REST);
    return () => clearTimeout(timer);
  }, [wanted, current, search, pathname, navigate]);
  const latest = useRef({ wanted, current, pathname });
  useEffect(() => {
    latest.current = { wanted, current, pathname };
  });
  return useCallback(
    (to) => {
      const now = latest.current;
      if (now.current !== null && window.location.pathname === now.pathname) {
        known.current = now.wanted;
        window.history.replaceState(window.history.state, '', now.pathname + now.wanted);
      }
      void navigate(to);
    },
    [navigate],
  );
}
