import { ACTIONS, type Action } from './actions';

/** The keys of actions that differ from those they come with, by the action's id; none: it has no key. */
export type OwnKeys = Readonly<Record<string, readonly string[]>>;

/** What stands between two keys that are pressed one after the other. */
export const THEN = '>';

/** Which key does what: the actions' own keys, and over them those that the studio has changed. */
export class Bindings {
  private readonly byKey = new Map<string, Action>();
  private readonly prefixes = new Set<string>();

  constructor(private readonly own: OwnKeys = {}) {
    // What somebody chose stands before what Arkiv comes with: a new action may come with a key that has another meaning.
    for (const action of [
      ...ACTIONS.filter(({ id }) => id in own),
      ...ACTIONS.filter(({ id }) => !(id in own)),
    ])
      for (const key of this.keysOf(action)) {
        if (!(action.id in own) && this.prefixes.has(key)) continue;
        // A table from outside may bind a key twice: the first one listed has it.
        if (!this.byKey.has(key)) this.byKey.set(key, action);
        if (key.includes(THEN)) this.prefixes.add(key.slice(0, key.indexOf(THEN)));
      }
  }

  keysOf({ id, keys }: Action): readonly string[] {
    return this.own[id] ?? keys;
  }

  /** What the first of a press's names is bound to; `before`: the key that was pressed first, or none. */
  boundTo(names: readonly string[], before: string | null = null): Action | undefined {
    const start = before === null ? '' : `${before}${THEN}`;
    return names.flatMap((name) => this.byKey.get(start + name) ?? [])[0];
  }

  /** The name of a press after which another one is waited for. */
  prefixAmong(names: readonly string[]): string | null {
    return names.find((name) => this.prefixes.has(name)) ?? null;
  }

  /** What can follow a key: the second key, and what both do. */
  after(prefix: string): { key: string; action: Action }[] {
    const start = `${prefix}${THEN}`;
    return [...this.byKey].flatMap(([key, action]) =>
      key.startsWith(start) ? [{ key: key.slice(start.length), action }] : [],
    );
  }

  /**
   * What stands in the way of binding a key to an action: actions that have it, or that could not be reached any more
   * since one of both keys is the beginning of the other.
   */
  inTheWay(key: string, of: Action): Action[] {
    const first = (name: string) => name.split(THEN)[0]!;
    return ACTIONS.filter(
      (action) =>
        action.id !== of.id &&
        this.keysOf(action).some(
          (its) => its === key || (first(its) === first(key) && its.includes(THEN) !== key.includes(THEN)),
        ),
    );
  }

  /** The first key of an action, as it is read; empty: it has none. `id`: as in {@link ACTIONS}. */
  shown(id: string): string {
    const action = ACTIONS.find((one) => one.id === id);
    return action ? shownKey(this.keysOf(action)[0] ?? '') : '';
  }

  /** The same with one more key for an action, taken from whatever had it. */
  with(key: string, of: Action): OwnKeys {
    const taken = this.inTheWay(key, of).map((action) => [
      action.id,
      this.keysOf(action).filter((its) => !(its === key || its.split(THEN)[0] === key.split(THEN)[0])),
    ]);
    return tidy({ ...this.own, ...Object.fromEntries(taken), [of.id]: [...this.keysOf(of), key] });
  }

  without(key: string, of: Action): OwnKeys {
    return tidy({ ...this.own, [of.id]: this.keysOf(of).filter((its) => its !== key) });
  }
}

/** Without what is as it comes. */
export function tidy(own: OwnKeys): OwnKeys {
  const differs = (id: string, keys: readonly string[]) =>
    ACTIONS.some((action) => action.id === id && action.keys.join(' ') !== keys.join(' '));
  return Object.fromEntries(Object.entries(own).filter(([id, keys]) => differs(id, keys)));
}

/** Whole sets of keys for other hands and other devices, over those that Cull comes with. */
export const SETS: readonly { id: string; words: string; own: OwnKeys }[] = [
  { id: 'both', words: 'Both hands: the left marks, the right moves', own: {} },
  {
    id: 'left',
    words: 'The left hand alone: it moves by E R T and marks around it',
    own: {
      // The hand lies on A S D F; what it moves by is right above, so that the thumb's Space stays free.
      previous: ['e', 'arrowleft'],
      next: ['r', 'arrowright'],
      above: ['shift+t', 'arrowup'],
      below: ['t', 'arrowdown'],
      side: ['v'],
      pile: ['alt+v'],
      'only-pile': ['alt+t'],
      'all-of-pile': ['alt+shift+t'],
      album: ['alt+b'],
      'album-choose': ['alt+shift+b'],
      run: ['alt+r'],
      undecided: ['x', 'u'],
      drop: ['delete'],
    },
  },
  {
    id: 'pad',
    words: 'The number pad alone: 4 and 6 move, + and − decide',
    own: {
      previous: ['pad4', 'arrowleft'],
      next: ['pad6', 'arrowright'],
      above: ['pad8', 'arrowup'],
      below: ['pad2', 'arrowdown'],
      winner: ['pad*', 'g'],
      zoom: ['pad5', 'z'],
      sheet: ['pad7', 'q'],
      single: ['pad9', 'w', 'enter'],
      undo: ['pad0', 'ctrl+z'],
      undecided: ['pad3', 'u'],
      'step-on': ['pad1', 'a'],
    },
  },
  {
    id: 'buttons',
    words: 'Buttons of a tablet or a key pad: F1 to F12',
    own: {
      arrange: ['alt+f2'],
      keep: ['f1', 'f', 'pad+'],
      reject: ['f2', 'd', 'pad-'],
      unmark: ['f3', 's', 'pad.'],
      winner: ['f4', 'g'],
      previous: ['f7', 'arrowleft'],
      next: ['f8', 'arrowright'],
      zoom: ['f9', 'z'],
      sheet: ['f10', 'q'],
      undo: ['f12', 'ctrl+z'],
    },
  },
];

const SIGNS: Readonly<Record<string, string>> = {
  arrowright: '→',
  arrowleft: '←',
  arrowup: '↑',
  arrowdown: '↓',
  pagedown: 'Page ↓',
  pageup: 'Page ↑',
  escape: 'Esc',
  '-': '−',
};

/** A key as it is shown: `shift+arrowup` is Shift ↑, `l>1` is L then 1, `pad+` is Pad +. */
export function shownKey(key: string): string {
  return key
    .split(THEN)
    .map((name) => {
      const held = /^((?:ctrl\+|alt\+|shift\+)*)(.+)$/.exec(name);
      const [, before = '', last = name] = held ?? [];
      const pad = /^pad(.)$/.exec(last)?.[1];
      const sign = pad ? `Pad ${SIGNS[pad] ?? pad}` : (SIGNS[last] ?? upper(last));
      return [...before.split('+').filter(Boolean).map(upper), sign].join(' ');
    })
    .join(' then ');
}

const upper = (word: string): string => (word[0] ?? '').toUpperCase() + word.slice(1);

/** Own keys as they are carried from one studio to another. */
export const keysAsText = (own: OwnKeys): string =>
  `${JSON.stringify({ format: 'arkiv-keys', version: 1, keys: own }, null, 2)}\n`;

/** What a file of keys says; what it names that is unknown here is told. Throws where it is no such file. */
export function keysFromText(text: string): { own: OwnKeys; unknown: string[] } {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new Error('This is not a file of keys: it holds no JSON. Choose one that Arkiv has saved.');
  }
  const { format, keys } = (read ?? {}) as { format?: unknown; keys?: unknown };
  if (format !== 'arkiv-keys' || typeof keys !== 'object' || keys === null)
    throw new Error('This is not a file of keys. Choose one that Arkiv has saved.');
  const entries = Object.entries(keys as Record<string, unknown>);
  const known = entries.filter(
    ([id, its]) =>
      ACTIONS.some((action) => action.id === id) &&
      Array.isArray(its) &&
      its.every((key) => typeof key === 'string' && key.length > 0 && key.length <= MOST_LETTERS),
  ) as [string, string[]][];
  const ids = new Set(known.map(([id]) => id));
  return {
    own: tidy(Object.fromEntries(known)),
    unknown: entries.map(([id]) => id).filter((id) => !ids.has(id)),
  };
}

/** Letters of a key's name: `ctrl+alt+shift+pagedown>ctrl+alt+shift+pagedown` has fewer. */
const MOST_LETTERS = 60;
