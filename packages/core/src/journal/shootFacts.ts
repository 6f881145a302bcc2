import { stamped, type Operation, type Stamp } from './operation';

/** What is said of a shoot as a whole, and can be said otherwise at any time: its folders and files keep their names. */
export const SHOOT_FACTS = ['title', 'client', 'place'] as const;
export type ShootFact = (typeof SHOOT_FACTS)[number];
export type ShootFacts = Readonly<Record<ShootFact, string>>;

/** A change of one of them; its subject is the shoot. */
export type ShootOperation = Operation<`shoot ${ShootFact}`, string>;

/** Characters: a line of a list. */
export const LONGEST_SHOOT_FACT = 120;

/** The fact that an operation of this kind changes; null: it is of another kind. */
export function shootFactOf(kind: string): ShootFact | null {
  return SHOOT_FACTS.find((fact) => kind === `shoot ${fact}`) ?? null;
}

/** Whether a shoot can have this: one line, without blanks around it; it has a title always. */
export const isShootFact = (fact: ShootFact, value: unknown): value is string =>
  typeof value === 'string' &&
  value.length <= LONGEST_SHOOT_FACT &&
  value.trim() === value &&
  // eslint-disable-next-line no-control-regex -- line ends and tabs are among them
  !/[\u0000-\u001f\u007f]/.test(value) &&
  (fact !== 'title' || value !== '');

/** Operations, as one group, that say of a shoot what is other than it was. */
export function shootOperations(
  shootId: string,
  was: ShootFacts,
  is: Partial<ShootFacts>,
  stamp: Stamp,
): ShootOperation[] {
  const shared = stamped(stamp);
  return SHOOT_FACTS.flatMap((fact): ShootOperation[] => {
    const [from, to] = [was[fact], is[fact] ?? was[fact]];
    return from === to
      ? []
      : [{ ...shared, id: stamp.newId(), kind: `shoot ${fact}`, subject: shootId, from, to }];
  });
}
