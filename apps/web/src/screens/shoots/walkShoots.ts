import type { KeyboardEvent } from 'react';

/** Up and down go from shoot to shoot; left and right are the shoot's own. */
export function walkShoots(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
  const shoots = [...event.currentTarget.querySelectorAll<HTMLElement>('a[data-shoot]')];
  const at = shoots.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  event.preventDefault();
  shoots[at + (event.key === 'ArrowDown' ? 1 : -1)]?.focus();
}
