import { useLayoutEffect, useRef } from 'react';
import { belongsToControl, cameByKeys, isTyped, leaveControl } from './ownKeys';
import { pressNames } from './pressed';

/** Keys that say nothing alone. */
const HELD = ['Shift', 'Control', 'Alt', 'AltGraph', 'Meta', 'CapsLock', 'NumLock', 'Dead'];

/**
 * The keys of a screen, wherever on it the focus is. `onKey` gets the names of each press that is the screen's, the
 * likeliest first, and says whether it meant something; then the browser does nothing more with it.
 */
export function useScreenKeys(onKey: (names: readonly string[], event: KeyboardEvent) => boolean): void {
  // Always the newest closure: keys bind once. Before anything is seen: a key that is pressed at what is seen is heard.
  const latest = useRef(onKey);
  useLayoutEffect(() => {
    latest.current = onKey;
  });
  useLayoutEffect(() => {
    const hear = (event: KeyboardEvent) => {
      // A composed letter, and a key that a control has answered already, are nobody else's.
      if (event.isComposing || event.defaultPrevented || HELD.includes(event.key)) return;
      const names = pressNames(event);
      const target = event.target instanceof Element ? event.target : document.body;
      // Escape leaves a field; the keys are the screen's again.
      if (names[0] === 'escape' && isTyped(target) && !target.closest('[role=dialog]'))
        return (target as HTMLElement).blur();
      if (belongsToControl(target, names.at(-1)!, cameByKeys(target))) return;
      if (latest.current(names, event)) event.preventDefault();
    };
    // A control that was clicked has done its work: it does not take the next key for its own.
    const clicked = (event: MouseEvent) => {
      if (event.detail > 0) leaveControl(event.target, document.activeElement);
    };
    window.addEventListener('keydown', hear);
    window.addEventListener('click', clicked, true);
    return () => {
      window.removeEventListener('keydown', hear);
      window.removeEventListener('click', clicked, true);
    };
  }, []);
}
