type Props = Record<string, string | number | boolean | ((event: Event) => void)>;

/** An element with its attributes, listeners (`onclick` …) and what is in it. */
export function el<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  props: Props = {},
  ...children: (Node | string)[]
): HTMLElementTagNameMap[K] {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(props)) {
    if (typeof value === 'function') made.addEventListener(name.slice(2), value);
    else if (typeof value === 'boolean') made.toggleAttribute(name, value);
    else made.setAttribute(name, String(value));
  }
  made.append(...children);
  return made;
}

const SVG = 'http://www.w3.org/2000/svg';
/** Drawn in a square of 24, stroke by stroke: a heart, a frame and its tick, a speech mark, arrows. */
const SHAPES = {
  heart: 'M12 20C4 14 3 10 4.5 7.2A4.3 4.3 0 0 1 12 7a4.3 4.3 0 0 1 7.5.2C21 10 20 14 12 20Z',
  tick: 'M4 4h16v16H4Z|M8 12.2l3 3 5.5-6.4',
  remark: 'M4 5h16v11h-8l-4 4v-4H4Z',
  back: 'M15 5l-7 7 7 7',
  on: 'M9 5l7 7-7 7',
  close: 'M6 6l12 12M18 6 6 18',
  beside: 'M3 5h8v14H3ZM13 5h8v14h-8Z',
  take: 'M12 4v11M7 11l5 5 5-5M5 20h14',
} as const;

export function icon(name: keyof typeof SHAPES): SVGElement {
  const svg = document.createElementNS(SVG, 'svg');
  svg.setAttribute('viewBox', '0 0 24 24');
  svg.setAttribute('aria-hidden', 'true');
  for (const stroke of SHAPES[name].split('|')) {
    const path = document.createElementNS(SVG, 'path');
    path.setAttribute('d', stroke);
    svg.append(path);
  }
  return svg;
}

/** A button with a picture on it; `label` says what it does. */
export const iconButton = (
  name: keyof typeof SHAPES,
  label: string,
  press: () => void,
  props: Props = {},
): HTMLButtonElement =>
  el('button', { type: 'button', 'aria-label': label, title: label, onclick: press, ...props }, icon(name));
