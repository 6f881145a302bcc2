/** The field of the line over all screens in which is typed what is looked for in the archive. */
export const FIND_BOX = 'find-box';

/** Goes to that field; on Find itself, and where there is no room for it, to Find's own line. */
export function focusFindBox(): void {
  const field = document.getElementById(FIND_BOX);
  if (field instanceof HTMLInputElement) {
    field.focus();
    field.select();
  } else document.getElementById(`${FIND_BOX}-link`)?.click();
}
