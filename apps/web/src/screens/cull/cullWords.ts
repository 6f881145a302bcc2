import type { Deed, MarkField, MarkValue } from '@arkiv/core';
import { many } from '../../data/format';
import type { Action } from '../../keys/actions';
import { shownKey, type Bindings } from '../../keys/bindings';
import type { Step } from '../../data/shootStore';

export const markWords = (field: MarkField, to: MarkValue): string => {
  if (field === 'stars') return to === 0 ? 'no stars' : `${to}★`;
  if (field === 'label') return to === null ? 'no label' : `label ${to}`;
  if (field === 'stage') return to === null ? 'no stage' : `stage ${String(to)}`;
  if (field === 'note') return to === null ? 'no note' : 'note';
  if (field === 'take') return 'another take';
  return String(to);
};

/** What was decided at a key. */
export const deedWords: Readonly<Record<Deed, string>> = {
  keep: 'keep',
  reject: 'reject',
  undecide: 'undecided',
};

/** What an undo or redo did. */
export function stepWords({ ids, skipped, elsewhere }: Step, words: string): string {
  const said = [`${words}: ${many(ids.length, 'mark')}`];
  if (elsewhere > 0) said.push(`${many(elsewhere, 'frame')} of them in another shoot now`);
  if (skipped > 0) said.push(`${many(skipped, 'mark')} changed since elsewhere and stayed`);
  return said.join(' · ');
}

/** What the keys after another one mean; labels by the names that the studio gave them. */
export function prefixWords(
  prefix: string,
  bindings: Bindings,
  names: Readonly<Record<string, string>>,
): string {
  const after = bindings.after(prefix);
  const labels = after.filter(({ action }) => action.command.do === 'label');
  const words = (action: Action) => {
    const { command } = action;
    if (command.do !== 'label') return action.does;
    return command.to === null ? 'none' : (names[command.to] ?? command.to);
  };
  const said = after.map(({ key, action }) => `${shownKey(key)} ${words(action)}`).join(' · ');
  return labels.length === after.length ? `Label: ${said}` : `${shownKey(prefix)} then: ${said}`;
}
