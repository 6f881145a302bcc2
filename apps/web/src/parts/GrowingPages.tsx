import { Fragment, useState, type ReactNode } from 'react';

export interface PageAsked {
  /** where the page before ended; null: this is the first */
  after: string | null;
  isFirst: boolean;
  /** shows the page that begins there below this one; null: it stands there already */
  onMore: ((next: string) => void) | null;
}

/** Pages one below the other, as many as were asked for. */
export function GrowingPages({ page }: { page: (asked: PageAsked) => ReactNode }) {
  // Where each page begins; the first one at the beginning.
  const [pages, setPages] = useState<readonly (string | null)[]>([null]);
  return pages.map((after, i) => (
    <Fragment key={after ?? ''}>
      {page({
        after,
        isFirst: i === 0,
        onMore: i === pages.length - 1 ? (next) => setPages([...pages, next]) : null,
      })}
    </Fragment>
  ));
}
