import { el, iconButton } from './dom';
import { leftOf, type Now, type Picture, type Saying } from './state';

/** Which pictures are shown. */
export const SHOWN = ['all', 'favourites', 'chosen', 'remarks'] as const;
export type Shown = (typeof SHOWN)[number];

const WORDS: Record<Shown, string> = {
  all: 'All',
  favourites: 'My favourites',
  chosen: 'Chosen',
  remarks: 'With remarks',
};
const NONE: Record<Shown, string> = {
  all: 'There is no picture here yet.',
  favourites: 'No favourites yet: press the heart below a picture.',
  chosen: 'Nothing is chosen yet: press the tick below a picture.',
  remarks: 'There are no remarks yet.',
};

export const isShown = (now: Now, shown: Shown, { key }: Picture): boolean =>
  shown === 'all' ||
  (shown === 'favourites' && now.favourites.includes(key)) ||
  (shown === 'chosen' && key in now.chosen) ||
  (shown === 'remarks' && (now.remarks[key]?.length ?? 0) > 0);

interface Cell {
  at: HTMLElement;
  /** as its element says */
  hidden: boolean;
  chosen: boolean;
  /** what can be done to it; null: not made yet */
  deeds: Deeds | null;
}

interface Deeds {
  favourite: HTMLButtonElement;
  choose: HTMLButtonElement;
  by: HTMLElement;
}

/** Cells whose buttons are made in one go while nothing else is to be done: some 5 ms on a telephone of the middle of the range. */
const AT_A_TIME = 8;

/** All pictures of the page, as the server wrote them, with what can be done to each. */
export class Sheet {
  shown: Shown = 'all';
  private now: Now | null = null;
  private readonly cells: Cell[];
  private readonly placeOf: Map<Element, number>;
  private readonly buttons = new Map<Shown, HTMLButtonElement>();

  constructor(
    private readonly pictures: readonly Picture[],
    private readonly say: (saying: Saying) => void,
    open: (i: number) => void,
    private readonly changed: () => void,
  ) {
    // As the server wrote them: in the order of the pictures.
    // Nothing is made or listened to for each of them before the first are seen: there may be thousands.
    this.cells = [...document.querySelectorAll<HTMLElement>('.cell')].map((at) => ({
      ...{ at, hidden: false, chosen: false, deeds: null },
    }));
    this.placeOf = new Map(this.cells.map(({ at }, i) => [at, i]));
    for (const shown of SHOWN) {
      const button = el('button', { type: 'button', onclick: () => this.choose(shown) });
      this.buttons.set(shown, button);
      document.querySelector('.shown')!.append(button);
    }
    const sheet = document.querySelector<HTMLElement>('.sheet')!;
    sheet.addEventListener('keydown', (event) => this.key(event));
    sheet.addEventListener('click', (event) => {
      const link = (event.target as Element).closest('.cell a');
      // A new tab shows the picture alone.
      if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
      event.preventDefault();
      open(this.at(link)!);
    });
    this.makeDeeds(sheet);
  }

  /** Numbers of the pictures that are shown, in their order. */
  visible(now: Now): number[] {
    return this.pictures.flatMap((picture, i) => (isShown(now, this.shown, picture) ? [i] : []));
  }

  focus(i: number): void {
    this.cells[i]?.at.querySelector('a')!.focus();
  }

  /** Of which picture an element of the sheet is; null: of none. */
  private at(within: Element | null): number | null {
    const cell = within?.closest('.cell');
    return (cell && this.placeOf.get(cell)) ?? null;
  }

  show(now: Now): void {
    this.now = now;
    for (const [i, cell] of this.cells.entries()) {
      const picture = this.pictures[i]!;
      const hidden = !isShown(now, this.shown, picture);
      const chosen = picture.key in now.chosen;
      // Nothing is laid out anew that is as it was.
      if (cell.hidden !== hidden) cell.at.hidden = cell.hidden = hidden;
      if (cell.chosen !== chosen) cell.at.classList.toggle('chosen', (cell.chosen = chosen));
      this.showDeeds(cell, picture, now);
    }
    const counts = {
      all: this.pictures.length,
      favourites: now.favourites.length,
      chosen: Object.keys(now.chosen).length,
    };
    const all = { ...counts, remarks: Object.values(now.remarks).filter((some) => some.length > 0).length };
    for (const [shown, button] of this.buttons) {
      button.textContent = `${WORDS[shown]} ${all[shown]}`;
      button.setAttribute('aria-pressed', String(shown === this.shown));
      button.hidden = shown !== this.shown && !this.isOffered(shown, now, all[shown]);
    }
    const nothing = document.querySelector<HTMLElement>('.nothing')!;
    nothing.hidden = this.visible(now).length > 0;
    nothing.textContent = NONE[this.shown];
  }

  /** What is never there here is no choice. */
  private isOffered(shown: Shown, { most }: Now, count: number): boolean {
    return count > 0 || shown === 'all' || shown === 'favourites' || (shown === 'chosen' && most !== null);
  }

  private choose(shown: Shown): void {
    this.shown = shown;
    this.changed();
  }

  /** Makes the buttons of what is seen at once, and of all others while nothing else is to be done: pictures come first. */
  private makeDeeds(sheet: HTMLElement): void {
    // Browsers that do not say it have the buttons a moment later.
    sheet.addEventListener('contentvisibilityautostatechange', (event) => {
      const i = this.at(event.target as Element);
      if (i !== null && !(event as ContentVisibilityAutoStateChangeEvent).skipped) this.make(i);
    });
    let next = 0;
    const some = () => {
      for (const end = Math.min(next + AT_A_TIME, this.cells.length); next < end; next++) this.make(next);
      if (next < this.cells.length) whenIdle(some);
    };
    whenIdle(some);
  }

  private make(i: number): void {
    const cell = this.cells[i];
    if (!cell || cell.deeds) return;
    const picture = this.pictures[i]!;
    const { key, name } = picture;
    const pressed = (button: HTMLButtonElement) => button.getAttribute('aria-pressed') === 'true';
    const favourite = iconButton('heart', `Favourite: ${name}`, () =>
      this.say({ kind: 'favourite', key, on: !pressed(favourite) }),
    );
    const choose = iconButton('tick', `Choose: ${name}`, () =>
      this.say({ kind: 'choice', key, on: !pressed(choose) }),
    );
    const by = el('span', { class: 'by' });
    cell.deeds = { favourite, choose, by };
    if (this.now) this.showDeeds(cell, picture, this.now);
    // The server has left room for them: nothing moves when they come.
    cell.at.querySelector('.deeds')!.append(favourite, choose);
    cell.at.append(by);
  }

  private showDeeds({ deeds }: Cell, { key, name }: Picture, now: Now): void {
    if (!deeds) return;
    const { favourite, choose, by } = deeds;
    const chooses = now.rights.choose;
    const left = leftOf(now);
    const isChosen = key in now.chosen;
    favourite.setAttribute('aria-pressed', String(now.favourites.includes(key)));
    choose.setAttribute('aria-pressed', String(isChosen));
    choose.hidden = !chooses && !isChosen;
    choose.disabled = !chooses || (!isChosen && left === 0);
    choose.title =
      isChosen || left !== 0 ? `Choose ${name}` : 'All that can be chosen are; take one back first';
    const words = [
      isChosen && now.chosen[key] !== now.me ? `chosen by ${now.chosen[key]}` : '',
      remarksWords(now.remarks[key]?.length ?? 0),
    ]
      .filter((word) => word !== '')
      .join(' · ');
    if (by.textContent !== words) by.textContent = words;
  }

  /** Arrows go from picture to picture. */
  private key(event: KeyboardEvent): void {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const from = this.at(document.activeElement);
    if (step === undefined || from === null || document.activeElement?.tagName !== 'A') return;
    for (let i = from + step; i >= 0 && i < this.cells.length; i += step)
      if (!this.cells[i]!.hidden) {
        event.preventDefault();
        this.focus(i);
        return;
      }
  }
}

const remarksWords = (count: number): string =>
  count === 0 ? '' : count === 1 ? '1 remark' : `${count} remarks`;

/** Where a browser cannot say when it is idle, after what is under way. */
const whenIdle = (work: () => void): void => {
  if ('requestIdleCallback' in window) window.requestIdleCallback(work);
  else setTimeout(work, 1);
};
