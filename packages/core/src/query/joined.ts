import { partsOfLine } from './line';
import { alternatives, isQuoted, tokensOf } from './lineTokens';

const OR = /^or$/i;
const AND = /^(and|&)$/i;

/**
 * What is probably meant by a line that joins its parts as one says it: `stork or heron` is `stork|heron`, `bride and groom` is
 * `bride groom`. In a line both are words like any other, which must be found; so this is offered where nothing was. Null: the line joins
 * nothing so, or what it joins cannot stand with a bar between (a fact and a word).
 */
export function joinedMeant(line: string): string | null {
  const tokens = tokensOf(line);
  const parts: string[] = [];
  let changed = false;
  for (const [i, { from, to, text }] of tokens.entries()) {
    const between = i > 0 && i < tokens.length - 1 && !isQuoted(text);
    if (between && (OR.test(text) || AND.test(text))) {
      changed = true;
      continue;
    }
    const own = line.slice(from, to);
    if (i > 1 && OR.test(tokens[i - 1]!.text)) parts.push(`${parts.pop()}|${own}`);
    else parts.push(own);
  }
  return changed && parts.every(isOne) ? parts.join(' ') : null;
}

/** Whether a part means with its bars what each of its sides means without. */
function isOne(part: string): boolean {
  const [whole] = partsOfLine(part);
  const sides = alternatives(part).flatMap((side) => partsOfLine(side));
  // A minus before a bar is the opposite of all that stands between bars.
  if (sides.length > 1 && /(^|\|)[-−]/.test(part)) return false;
  return whole !== undefined && !whole.problem && sides.every(({ kind }) => kind === whole.kind);
}
