import { HEADINGS, ORDERS, type FrameOrdering, type Heading, type OrderBy } from '@arkiv/core';
import { Problem } from '../../parts/Problem';
import { many } from '../../data/format';
import type { Measuring } from './useMeasuring';
import styles from './FilterDrawer.module.css';

const ORDER_WORDS: Readonly<Record<OrderBy, readonly [string, string]>> = {
  time: ['time, the first first', 'time, the last first'],
  name: ['name, from A', 'name, from Z'],
  stars: ['stars, the most first', 'stars, the fewest first'],
  sharpness: ['sharpness, the sharpest first', 'sharpness, the softest first'],
  size: ['size, the largest first', 'size, the smallest first'],
  found: ['as in Find, or in the album', 'as in Find, or in the album, from behind'],
};
const HEADING_WORDS: Readonly<Record<Heading, string>> = {
  none: 'no headings',
  day: 'under days',
  hour: 'under hours',
  body: 'under bodies',
  stars: 'under stars',
  label: 'under labels',
};

/** In which order frames stand, and under which headings. */
export function OrderPart({
  order,
  found,
  measuring: { waiting, action },
  onOrder,
}: {
  order: FrameOrdering;
  /** they were looked for, and stand in an order there */
  found: boolean;
  measuring: Measuring;
  onOrder: (order: FrameOrdering) => void;
}) {
  return (
    <section className={styles.part}>
      <h2>Order</h2>
      <div className={styles.row}>
        <select
          aria-label="Order"
          className={styles.select}
          value={`${order.by}${order.reverse ? ' back' : ''}`}
          onChange={(event) => {
            const [by, back] = event.target.value.split(' ');
            onOrder({ ...order, by: by as OrderBy, reverse: back !== undefined });
          }}
        >
          {ORDERS.filter((by) => by !== 'found' || found).flatMap((by) =>
            ORDER_WORDS[by].map((words, i) => (
              <option key={words} value={`${by}${i === 1 ? ' back' : ''}`}>
                {words}
              </option>
            )),
          )}
        </select>
      </div>
      {action.error !== null ? (
        <Problem error={action.error} again={action.again} />
      ) : (
        waiting > 0 && (
          <p className={styles.hint} role="status">
            {many(waiting, 'frame is', 'frames are')} not measured yet
            {order.by === 'sharpness' && ' and stand last'}.
          </p>
        )
      )}
      <div className={styles.row} style={{ marginTop: 6 }}>
        <select
          aria-label="Headings"
          className={styles.select}
          value={order.heading}
          onChange={(event) => onOrder({ ...order, heading: event.target.value as Heading })}
        >
          {HEADINGS.map((heading) => (
            <option key={heading} value={heading}>
              {HEADING_WORDS[heading]}
            </option>
          ))}
        </select>
      </div>
    </section>
  );
}
