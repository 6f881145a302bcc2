import { many } from '../../data/format';
import type { Api } from '../../data/http';

/** What else goes along, in words. */
export const alongWords = ({ along }: Api['MovePlanDto']): string =>
  along.length === 0 ? '' : ` and ${many(along.length, 'settings file', 'settings files')} of other programs`;
