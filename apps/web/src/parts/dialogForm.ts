import type { CSSProperties } from 'react';

/** A form that fills a dialog: what does not fit is scrolled between its title and its buttons, which stay in sight. */
export const SCROLLED: CSSProperties = { display: 'flex', flexDirection: 'column', minHeight: 0 };
