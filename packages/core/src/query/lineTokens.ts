// How a line is parted into words: blanks, bars, quotation marks, and backslashes before these.

/** A value as it stands in a line behind its field and `=`. Quotation marks and backslashes of its own stand behind a backslash. */
export const lineValue = (value: string): string =>
  /[\s"“”„|\\]/.test(value) || value === '' || value === 'none' || value === 'any'
    ? `"${value.replace(/["“”„\\]/g, '\\$&')}"`
    : value;

/** What a backslash makes a plain character, and while a line is read the two that stand for both: as long, so that places in it stay. */
const PLAIN = '"“”„\\';
const [PLAIN_FROM, PLAIN_SECOND] = [0xe000, '\ue00f'];
const hidden = (line: string): string =>
  line.replace(
    /\\(["“”„\\])/g,
    (_, char: string) => String.fromCharCode(PLAIN_FROM + PLAIN.indexOf(char)) + PLAIN_SECOND,
  );
/** A part of a line as it was meant, its quotation marks kept. */
export const unhidden = (text: string): string =>
  text.replace(/([\ue000-\ue004])\ue00f/g, (_, char: string) => PLAIN[char.charCodeAt(0) - PLAIN_FROM]!);

/** A part of a line, between blanks. */
export interface Token {
  from: number;
  to: number;
  text: string;
}

/**
 * What stands between blanks; blanks between quotation marks part nothing. The text is for the functions below: what a backslash made plain
 * is hidden in it.
 */
export function tokensOf(typed: string): Token[] {
  const line = hidden(typed);
  const tokens: Token[] = [];
  let from = -1;
  let quoted = false;
  for (let at = 0; at <= line.length; at++) {
    const char = line[at];
    const ends = char === undefined || (!quoted && /\s/.test(char));
    if (ends) {
      if (from >= 0) tokens.push({ from, to: at, text: line.slice(from, at) });
      from = -1;
      continue;
    }
    if (from < 0) from = at;
    if (/["“”„]/.test(char)) quoted = !quoted;
  }
  return joinedTokens(tokens, line);
}

/** `ISO 400` and `400 mm` are one. */
function joinedTokens(tokens: readonly Token[], line: string): Token[] {
  const joined: Token[] = [];
  for (const token of tokens) {
    const last = joined.at(-1);
    const one =
      last &&
      ((/^-?iso$/i.test(last.text) && /^[\d≥≤<>=]/.test(token.text)) ||
        (/^-?[≥≤<>=]*\d+(-\d+)?$/.test(last.text) && /^mm$/i.test(token.text)));
    if (one)
      joined[joined.length - 1] = { from: last.from, to: token.to, text: line.slice(last.from, token.to) };
    else joined.push(token);
  }
  return joined;
}

/** What a part of a line says, without the quotation marks that hold it together. */
export const plainValue = (text: string): string => unhidden(text.replace(/["“”„]/g, ''));

/** Whether the whole of a part stands between quotation marks. */
export const isQuoted = (text: string): boolean => /^["“”„].*["“”]$/.test(text);

/** What stands between bars; bars between quotation marks part nothing. */
export function alternatives(text: string): string[] {
  return (text.match(/(?:["“„][^"“”]*["”]?|[^|"“”„])+/g) ?? []).filter(
    (part) => plainValue(part).trim() !== '',
  );
}

/** What is being typed at the end of a line: of which field, or of none (null), and its text. Null where its quotation marks are closed, or nothing is. */
export function typedEnd(line: string): { field: string | null; text: string } | null {
  const last = tokensOf(line).at(-1);
  if (!last || last.to < line.length) return null;
  const said = last.text.replace(/^[-−]/, '');
  const [, field = null, value = said] = /^([a-z]+)[:=](.*)$/is.exec(said) ?? [];
  if (/["“„][^"“”„]+["”]$/.test(value)) return null;
  return { field: field && field.toLowerCase(), text: plainValue(value) };
}
