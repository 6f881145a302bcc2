import { many } from '../../data/format';
import type { Api } from '../../data/http';

/** What goes along with a set; empty: nothing. */
export function alongWords({ raws, sheet, bag }: Api['SetAlongDto']): string {
  return [raws !== null && `raws in “${raws}”`, sheet && 'a proof sheet', bag && 'as a bag']
    .filter((words) => words !== false)
    .join(', ');
}

/** How a set differs from what it would be by now; empty: in nothing. */
export function changesWords({ fresh, changed, gone }: Api['DeliveryChangesDto']): string {
  return [
    fresh > 0 && `${many(fresh, 'file')} not in it yet`,
    changed > 0 && `${many(changed, 'file')} other by now`,
    gone > 0 && `${many(gone, 'file')} no part of it any more`,
  ]
    .filter((words) => words !== false)
    .join(', ');
}

/** What bringing it up to date will do to its files. */
export function remakeWords({ fresh, changed, gone }: Api['DeliveryChangesDto']): string {
  const made = fresh + changed;
  const does = [
    made > 0 && `makes ${many(made, 'file')}`,
    gone > 0 && `takes ${many(gone, 'file')} out of the folder`,
    'makes manifest and zip anew',
  ].filter((words) => words !== false);
  const whole = `${does.slice(0, -1).join(', ')}${does.length > 1 ? ', and ' : ''}${does.at(-1)}`;
  return `Bringing it up to date ${whole}. All others stay as they are, under their names.`;
}
