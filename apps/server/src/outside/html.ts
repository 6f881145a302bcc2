/** Text that is markup already, of our own making. */
export class Markup {
  constructor(readonly text: string) {}
}

type Piece = string | number | null | false | Markup | readonly Markup[];

const SIGNS: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => SIGNS[sign]!);

/** Markup from a template: whatever is put into it is text, and cannot become markup; null and false are nothing. */
export function html(parts: TemplateStringsArray, ...pieces: readonly Piece[]): Markup {
  const shown = pieces.map((piece) => {
    if (piece === null || piece === false) return '';
    if (piece instanceof Markup) return piece.text;
    if (typeof piece === 'string' || typeof piece === 'number') return escaped(String(piece));
    return piece.map(({ text }) => text).join('');
  });
  return new Markup(parts.map((part, i) => part + (shown[i] ?? '')).join(''));
}

/** A value for a script to read, in an element that no browser runs. */
export const dataElement = (id: string, value: unknown): Markup =>
  new Markup(
    `<script type="application/json" id="${id}">${JSON.stringify(value).replaceAll('<', '\\u003c')}</script>`,
  );
