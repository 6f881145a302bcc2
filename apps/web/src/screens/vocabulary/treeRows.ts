import type { TermSearch, Vocabulary } from '@arkiv/core';

/** A line of the tree. */
export interface TreeRow {
  id: string;
  word: string;
  depth: number;
  /** whether something stands under it, and that is shown */
  below: 'none' | 'open' | 'folded';
  /** where it stands, and the synonym it was found by: said where the tree does not show it */
  aside: string;
}

/** Terms shown of those that fit what is typed: what one looks through. */
const FOUND = 300;

/** The lines of a vocabulary with some terms opened; what is typed shows those that fit, each with its place. */
export function treeRows(
  { vocabulary, search }: { vocabulary: Vocabulary; search: TermSearch },
  open: ReadonlySet<string>,
  typed: string,
): TreeRow[] {
  if (typed.trim() !== '')
    return search.find(typed, FOUND).map(({ term, by }) => {
      const path = vocabulary.path(term.id).slice(0, -1).join(' › ');
      return {
        ...{ id: term.id, word: term.word, depth: 0, below: 'none' as const },
        aside: [by && `also “${by}”`, path].filter(Boolean).join(' · '),
      };
    });
  const rows: TreeRow[] = [];
  const visit = (parent: string | null, depth: number) => {
    for (const { id, word, synonyms, number } of vocabulary.children(parent)) {
      const has = vocabulary.children(id).length > 0;
      const opened = has && open.has(id);
      rows.push({
        id,
        word,
        depth,
        below: has ? (opened ? 'open' : 'folded') : 'none',
        aside: [number, ...synonyms].filter(Boolean).join(', '),
      });
      if (opened) visit(id, depth + 1);
    }
  };
  visit(null, 0);
  return rows;
}
