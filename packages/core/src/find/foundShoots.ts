import type { QueryFrame } from '../query/fields';
import { askedWords, indexWords, type WordCondition } from '../query/words';

export interface FoundShoot {
  id: string;
  title: string;
  client: string;
  place: string;
  /** YYYY-MM-DD */
  date: string;
}

/** The shoots that frames are in, and what filters see of them. */
export class FoundShoots {
  private readonly shoots = new Map<string, FoundShoot>();
  /** the same as filters see them: what each says is made once */
  private readonly seen = new Map<string, QueryFrame>();
  private byCode: (QueryFrame | undefined)[] = [];
  /** all words of all shoots; null: to be gathered anew */
  private words: Set<string> | null = null;

  get(id: string): FoundShoot | null {
    return this.shoots.get(id) ?? null;
  }

  /** Whether filters see anything else of it than before. */
  set(shoot: FoundShoot): boolean {
    const { id, title, client, place } = shoot;
    const known = this.shoots.get(id);
    this.shoots.set(id, shoot);
    if (known?.title === title && known.client === client && known.place === place) return false;
    this.seen.set(id, { shoot: title, client: client || null, place: place || null } as QueryFrame);
    this.byCode = [];
    this.words = null;
    return true;
  }

  /** As filters see them, by the code of their id: each is looked up once. */
  seenByCode(ids: readonly (string | null)[]): readonly (QueryFrame | undefined)[] {
    for (let code = this.byCode.length; code < ids.length; code++)
      this.byCode.push(this.seen.get(ids[code] ?? ''));
    return this.byCode;
  }

  /** Whether any has all words that are asked for: most words are of none, and then none is gone through. */
  anySays(condition: WordCondition, text: string): boolean {
    const all = (this.words ??= this.allWords());
    const asked = askedWords(text);
    return asked.every((word, i) => {
      if (condition !== 'begins' || i < asked.length - 1) return all.has(word);
      for (const its of all) if (its.startsWith(word)) return true;
      return false;
    });
  }

  private allWords(): Set<string> {
    return new Set(
      [...this.seen.values()].flatMap(({ shoot, client, place }) =>
        [shoot, client, place].flatMap((its) => (its ? indexWords(its) : [])),
      ),
    );
  }
}
