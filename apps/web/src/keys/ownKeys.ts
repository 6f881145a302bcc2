/** Fields in which letters are letters. */
const TYPED =
  'textarea, select, [contenteditable=true], input:not([type=radio], [type=checkbox], [type=range], [type=button])';
/** Controls that move by arrows, Home and End. */
const MOVED = '[type=radio], [type=range], [role=radiogroup]';
const PRESSED = 'a, button, [role=button]';

/** Whether somebody is typing there. */
export const isTyped = (target: Element): boolean => target.closest(TYPED) !== null;

/**
 * Whether a key goes to the control that has the focus instead of to the screen. Keys belong to the screen: only an open
 * dialog and a field that is typed in keep theirs, and a control that was come to by keys those that work it. A click
 * on a control takes nothing away. `name` as `pressNames` gives it: `shift+arrowdown`.
 */
export function belongsToControl(target: Element, name: string, cameByKeys: boolean): boolean {
  if (target.closest('[role=dialog]')) return true;
  if (isTyped(target)) return true;
  if (!cameByKeys) return false;
  if (/(^|\+)(enter|space)$/.test(name)) return target.closest(`${PRESSED}, ${MOVED}`) !== null;
  return /^((ctrl|shift)\+)*(arrow|home|end|page)/.test(name) && target.closest(MOVED) !== null;
}

/**
 * Takes the focus from a control that a hand clicked, so that the keys are the screen's. Browsers draw the focus of such a
 * control as one that came by keys as soon as any key is pressed. What opens something of its own, and a dialog, keep it.
 */
export function leaveControl(target: EventTarget | null, focused: Element | null): void {
  if (!(target instanceof Element) || !(focused instanceof HTMLElement) || !focused.contains(target)) return;
  // A slider that a hand has drawn is worked by that hand.
  if (
    focused.matches(`${PRESSED}, [type=range]`) &&
    !focused.closest('[role=dialog], [aria-haspopup], [aria-expanded]')
  )
    focused.blur();
}

/** Whether the focus came by keys, as the browser draws it. */
export const cameByKeys = (target: Element): boolean => target.matches(':focus-visible');
