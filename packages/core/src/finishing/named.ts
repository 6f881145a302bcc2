import { FINISH_FIELDS, finishOf, finishText, isFinishValue, type Finish, type FinishField } from './values';

/** A finish that is kept by name. */
export interface NamedFinish {
  name: string;
  /** its values, see `finishText` */
  values: string;
}

/** As many as a list over the picture shows without being scrolled; nobody remembers more of them by name. */
export const FINISHES_AT_MOST = 24;
/** Characters: what fits on one line beside the picture. */
export const LONGEST_FINISH = 40;

/** What is wrong with a list of finishes; null: nothing. */
export function finishesProblem(finishes: readonly NamedFinish[]): string | null {
  if (finishes.length > FINISHES_AT_MOST) return `There may be ${FINISHES_AT_MOST} finishes at most.`;
  const names = new Set<string>();
  for (const { name, values } of finishes) {
    if (name.trim() !== name || name === '') return 'Each finish needs a name.';
    if (name.length > LONGEST_FINISH)
      return `“${name}” is too long: ${LONGEST_FINISH} characters are the most.`;
    if (names.has(name.toLowerCase())) return `Two finishes are called “${name}”.`;
    names.add(name.toLowerCase());
    if (values === '' || finishText(finishOf(values)) !== values)
      return `“${name}” holds no values that can be put on a frame.`;
  }
  return null;
}

/** What is put on frames of some values: those that are asked for; what it says nothing of stays as it is on each. */
export function putOn(finish: Finish, fields: readonly FinishField[]): [FinishField, number | string][] {
  return FINISH_FIELDS.flatMap((field) => {
    const value = finish[field];
    return fields.includes(field) && isFinishValue(field, value) ? [[field, value] as const] : [];
  }) as [FinishField, number | string][];
}
