import { count, many } from '../data/format';
import type { Api } from '../data/http';

type Adopted = Pick<Api['AdoptedDto'], 'busy' | 'shoots' | 'frames' | 'unread' | 'trouble'>;

/** How an adopted folder stands, in words. */
export function adoptedState({ busy, shoots, frames, unread, trouble }: Adopted): string {
  const had = frames === 0 ? 'no frames' : `${many(frames, 'frame')} in ${many(shoots, 'shoot')}`;
  if (trouble !== null) return had;
  const read = unread > 0 ? `${count(unread)} of its files were not read whole yet` : '';
  return [had, busy ? 'being looked at now' : read].filter(Boolean).join(' · ');
}

/** Which folders become shoots, as the choice says it. */
export const RULE_WORDS: Record<Api['AdoptedDto']['rule'], [name: string, said: string]> = {
  top: ['Each folder directly in it', 'with everything that lies below'],
  each: ['Each folder that holds pictures', 'however deep it lies'],
  dated: ['Each folder that bears a date', 'as 2024-05-11 Harbour or 2024/05/11; others by themselves'],
  day: ['Each day', 'by when the pictures were taken, wherever they lie'],
};
