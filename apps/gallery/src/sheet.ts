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
  link: HTMLAnchorElement;
  favourite: HTMLButtonElement;
  choose: HTMLButtonElement;
  by: HTMLElement;
}

/** All pictures of the page, as the server wrote them, with what can be done to each. */
export class Sheet {
  shown: Shown = 'all';
  private readonly cells: Cell[];
  private readonly buttons = new Map<Shown, HTMLButtonElement>();

  constructor(
    private readonly pictures: readonly Picture[],
    private readonly say: (saying: Saying) => void,
    open: (i: number) => void,
    private readonly changed: () => void,
  ) {
    this.cells = pictures.map((picture, i) => this.cell(picture, i, open));
    for (const shown of SHOWN) {
      const button = el('button', { type: 'button', onclick: () => this.choose(shown) });
      this.buttons.set(shown, button);
      document.querySelector('.shown')!.append(button);
    }
    document
      .querySelector('.sheet')!
      .addEventListener('keydown', (event) => this.key(event as KeyboardEvent));
  }

  /** Numbers of the pictures that are shown, in their order. */
  visible(now: Now): number[] {
    return this.pictures.flatMap((picture, i) => (isShown(now, this.shown, picture) ? [i] : []));
  }

  focus(i: number): void {
    this.cells[i]?.link.focus();
  }

  show(now: Now): void {
    const chooses = now.rights.choose;
    const left = leftOf(now);
    const favourites = new Set(now.favourites);
    for (const [i, { at, favourite, choose, by }] of this.cells.entries()) {
      const { key, name } = this.pictures[i]!;
      const [isFavourite, isChosen] = [favourites.has(key), key in now.chosen];
      favourite.setAttribute('aria-pressed', String(isFavourite));
      choose.setAttribute('aria-pressed', String(isChosen));
      choose.hidden = !chooses && !isChosen;
      choose.disabled = !chooses || (!isChosen && left === 0);
      choose.title =
        isChosen || left !== 0 ? `Choose ${name}` : 'All that can be chosen are; take one back first';
      const remarks = now.remarks[key]?.length ?? 0;
      const words = [
        isChosen && now.chosen[key] !== now.me ? `chosen by ${now.chosen[key]}` : '',
        remarksWords(remarks),
      ];
      by.textContent = words.filter((word) => word !== '').join(' · ');
      at.classList.toggle('chosen', isChosen);
      at.hidden = !isShown(now, this.shown, this.pictures[i]!);
    }
    const counts = {
      all: this.pictures.length,
      favourites: favourites.size,
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

  private cell({ key, name }: Picture, i: number, open: (i: number) => void): Cell {
    const at = document.querySelector<HTMLElement>(`[data-key="${key}"]`)!;
    const link = at.querySelector('a')!;
    link.addEventListener('click', (event) => {
      // A new tab shows the picture alone.
      if (event.ctrlKey || event.metaKey || event.shiftKey) return;
      event.preventDefault();
      open(i);
    });
    const pressed = (button: HTMLButtonElement) => button.getAttribute('aria-pressed') === 'true';
    const favourite = iconButton('heart', `Favourite: ${name}`, () =>
      this.say({ kind: 'favourite', key, on: !pressed(favourite) }),
    );
    const choose = iconButton('tick', `Choose: ${name}`, () =>
      this.say({ kind: 'choice', key, on: !pressed(choose) }),
    );
    const by = el('span', { class: 'by' });
    at.append(el('p', { class: 'deeds' }, favourite, choose), by);
    return { at, link, favourite, choose, by };
  }

  /** Arrows go from picture to picture. */
  private key(event: KeyboardEvent): void {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const from = this.cells.findIndex(({ link }) => link === document.activeElement);
    if (step === undefined || from < 0) return;
    for (let i = from + step; i >= 0 && i < this.cells.length; i += step)
      if (!this.cells[i]!.at.hidden) {
        event.preventDefault();
        this.cells[i]!.link.focus();
        return;
      }
  }
}

const remarksWords = (count: number): string =>
  count === 0 ? '' : count === 1 ? '1 remark' : `${count} remarks`;
