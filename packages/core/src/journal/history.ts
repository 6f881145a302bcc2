import type { Operation } from './operation';

/** Operations that are taken back together. */
export interface Group<O extends Operation = Operation> {
  id: string;
  operations: O[];
}

/**
 * What one person can take back and do again, from the journal's order, in whatever window it was made. Without limit:
 * a season's marks are a few megabytes. A new decision ends what could be done again.
 */
export class History<O extends Operation = Operation> {
  private readonly done: Group<O>[] = [];
  private undone: Group<O>[] = [];
  private readonly known = new Set<string>();

  constructor(private readonly by: string) {}

  /** Operations as they come, this window's own or told of. Returns those that were taken: others' and known ones are not. */
  take(operations: readonly O[]): O[] {
    const taken = operations.filter(({ id, by }) => by === this.by && !this.known.has(id));
    for (const operation of taken) {
      this.known.add(operation.id);
      this.takeOne(operation);
    }
    return taken;
  }

  private takeOne(operation: O): void {
    const { group, undoes } = operation;
    const begun = newest(this.done, group) ?? newest(this.undone, group);
    // A selection of thousands comes in parts.
    if (begun) return void begun.operations.push(operation);
    const made = { id: group, operations: [operation] };
    if (undoes === null) {
      this.done.push(made);
      this.undone = [];
    } else if (drop(this.undone, undoes)) this.done.push(made);
    else {
      // What it takes back may be older than what is known here.
      drop(this.done, undoes);
      this.undone.push(made);
    }
  }

  /** What is taken back next. */
  get lastDone(): Group<O> | null {
    return this.done.at(-1) ?? null;
  }

  /** What is done again next. */
  get lastUndone(): Group<O> | null {
    return this.undone.at(-1) ?? null;
  }

  /** Nothing of a group could be taken back: it is not offered again. */
  giveUp(group: string): void {
    drop(this.done, group);
    drop(this.undone, group);
  }
}

/** The groups that something new belongs to are among the last: a search from the end is short. */
function newest<O extends Operation>(groups: readonly Group<O>[], id: string): Group<O> | null {
  for (let i = groups.length - 1; i >= 0; i--) if (groups[i]!.id === id) return groups[i]!;
  return null;
}

function drop<O extends Operation>(groups: Group<O>[], id: string): boolean {
  for (let i = groups.length - 1; i >= 0; i--)
    if (groups[i]!.id === id) {
      groups.splice(i, 1);
      return true;
    }
  return false;
}
