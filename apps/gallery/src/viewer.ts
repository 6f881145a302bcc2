import { el, icon, iconButton } from './dom';
import { leftOf, type Now, type PageState, type Picture, type Saying } from './state';

/** Pixels a finger goes before it means the next picture, and not a tap. */
const SWIPE = 48;

/** One picture, as large as the window allows, with what is said of it. */
class Pane {
  readonly at: HTMLElement;
  private readonly image = el('img', { alt: '', decoding: 'async' });
  private readonly dots = el('div', { class: 'dots' });
  private readonly name = el('h2');
  private readonly favourite: HTMLButtonElement;
  private readonly choose: HTMLButtonElement;
  private readonly takes = el('span', { class: 'takes' });
  private readonly remarks = el('ol', { class: 'remarks' });
  private readonly form: HTMLFormElement;
  private readonly words = el('textarea', { rows: 2, maxlength: 500, 'aria-label': 'Your remark' });
  private spot: { x: number; y: number } | null = null;
  private picture: Picture | null = null;
  private now: Now | null = null;

  constructor(
    private readonly page: PageState,
    private readonly say: (saying: Saying) => Promise<boolean>,
  ) {
    this.favourite = iconButton('heart', 'Favourite', () => this.toggleFavourite());
    this.choose = iconButton('tick', 'Choose', () => this.toggleChoice());
    const remark = iconButton('remark', 'Write a remark', () => this.openForm());
    remark.hidden = !page.now.rights.remark;
    this.form = el(
      'form',
      { hidden: true, onsubmit: (event) => void this.send(event) },
      this.words,
      el('p', { class: 'why' }, 'Press on the picture to point at a spot.'),
      el('button', { class: 'main' }, 'Keep the remark'),
      el('button', { type: 'button', onclick: () => this.closeForm() }, 'Leave it'),
    );
    const stage = el('div', { class: 'stage', onclick: (event) => this.point(event as MouseEvent) });
    stage.append(this.image, this.dots);
    this.at = el(
      'section',
      { class: 'pane' },
      stage,
      el('div', { class: 'deeds' }, this.name, this.favourite, this.choose, remark, this.takes),
      this.remarks,
      this.form,
    );
    new ResizeObserver(() => this.showDots()).observe(this.image);
    this.image.addEventListener('load', () => this.showDots());
  }

  get isWriting(): boolean {
    return !this.form.hidden;
  }

  show(picture: Picture, i: number, many: number, now: Now): void {
    if (picture.key !== this.picture?.key) {
      this.closeForm();
      const at = (size: string) => `${this.page.base}/p/${picture.key}/${picture.version}/${size}`;
      const long = Math.max(picture.width, picture.height);
      // Half the width that a picture has on the screen is enough for one that stands.
      const middle = Math.round((picture.width * Math.min(1280, long)) / long);
      this.image.srcset = `${at('middle')} ${middle}w, ${at('large')} ${picture.width}w`;
      this.image.src = at('middle');
      this.image.width = picture.width;
      this.image.height = picture.height;
      this.image.alt = `${picture.name}, picture ${i + 1} of ${many}`;
      this.name.textContent = `${picture.name} · ${i + 1} of ${many}`;
      this.takes.replaceChildren(...this.takeLinks(picture));
    }
    this.picture = picture;
    this.now = now;
    const isChosen = picture.key in now.chosen;
    this.favourite.setAttribute('aria-pressed', String(now.favourites.includes(picture.key)));
    this.choose.setAttribute('aria-pressed', String(isChosen));
    this.choose.hidden = !now.rights.choose && !isChosen;
    this.choose.disabled = !now.rights.choose || (!isChosen && leftOf(now) === 0);
    this.remarks.replaceChildren(
      ...(now.remarks[picture.key] ?? []).map(({ id, text, by, mine }) =>
        el(
          'li',
          {},
          el('b', {}, `${by}: `),
          text,
          ...(mine
            ? [iconButton('close', 'Take this remark back', () => void this.say({ kind: 'unsay', id }))]
            : []),
        ),
      ),
    );
    this.showDots();
  }

  toggleFavourite(): void {
    if (!this.picture || !this.now) return;
    const { key } = this.picture;
    void this.say({ kind: 'favourite', key, on: !this.now.favourites.includes(key) });
  }

  toggleChoice(): void {
    if (!this.picture || !this.now || this.choose.disabled || this.choose.hidden) return;
    const { key } = this.picture;
    void this.say({ kind: 'choice', key, on: !(key in this.now.chosen) });
  }

  openForm(): void {
    if (!this.page.now.rights.remark) return;
    this.form.hidden = false;
    this.at.classList.add('points');
    this.words.focus();
  }

  closeForm(): void {
    this.form.hidden = true;
    this.spot = null;
    this.words.value = '';
    this.at.classList.remove('points');
    this.showDots();
  }

  private takeLinks(picture: Picture): Node[] {
    if (!this.page.now.rights.download) return [];
    return this.page.forms.map(({ spec, name }) =>
      el(
        'a',
        { href: `${this.page.base}/d/${picture.key}/${spec}`, download: '', title: `Take along: ${name}` },
        icon('take'),
        this.page.forms.length > 1 ? name : 'Take along',
      ),
    );
  }

  private point(event: MouseEvent): void {
    if (!this.isWriting) return;
    const { left, top, width, height } = this.image.getBoundingClientRect();
    const [x, y] = [(event.clientX - left) / width, (event.clientY - top) / height];
    this.spot = x < 0 || y < 0 || x > 1 || y > 1 ? null : { x, y };
    this.showDots();
    this.words.focus();
  }

  private async send(event: Event): Promise<void> {
    event.preventDefault();
    const text = this.words.value.trim();
    if (text === '' || !this.picture) return;
    const { x, y } = this.spot ?? { x: null, y: null };
    if (await this.say({ kind: 'remark', key: this.picture.key, text, x, y })) this.closeForm();
  }

  /** Where remarks point to, by their numbers in the list. */
  private showDots(): void {
    const remarks = (this.picture && this.now?.remarks[this.picture.key]) ?? [];
    const dot = (x: number, y: number, words: string) => {
      const made = el('span', { class: words === '' ? 'dot new' : 'dot' }, words);
      const [left, top] = [
        this.image.offsetLeft + x * this.image.offsetWidth,
        this.image.offsetTop + y * this.image.offsetHeight,
      ];
      made.style.translate = `${left}px ${top}px`;
      return made;
    };
    const all = remarks.flatMap(({ x, y }, i) =>
      x === null || y === null ? [] : [dot(x, y, String(i + 1))],
    );
    if (this.spot) all.push(dot(this.spot.x, this.spot.y, ''));
    this.dots.replaceChildren(...all);
  }
}

/** Looks at pictures one by one, or at two beside each other. */
export class Viewer {
  private readonly at: HTMLDialogElement;
  private readonly panes: [Pane, Pane];
  private readonly beside: HTMLButtonElement;
  /** the picture that stays while others come beside it; null: one alone is looked at */
  private held: number | null = null;
  private current: number | null = null;
  private from: { x: number; y: number; id: number } | null = null;

  /** `visible`: numbers of the pictures one goes through; `moved`: which is looked at by now, null: none. */
  constructor(
    private readonly page: PageState,
    private readonly now: () => Now,
    private readonly visible: () => number[],
    say: (saying: Saying) => Promise<boolean>,
    private readonly moved: (i: number | null) => void,
  ) {
    this.panes = [new Pane(page, say), new Pane(page, say)];
    this.beside = iconButton('beside', 'Compare with others', () => this.compare());
    const panes = el('div', { class: 'panes' }, this.panes[0].at, this.panes[1].at);
    this.at = el(
      'dialog',
      { class: 'viewer', 'aria-label': 'Picture' },
      el(
        'button',
        { type: 'button', class: 'step back', 'aria-label': 'Picture before', onclick: () => this.step(-1) },
        icon('back'),
      ),
      panes,
      el(
        'button',
        { type: 'button', class: 'step on', 'aria-label': 'Next picture', onclick: () => this.step(1) },
        icon('on'),
      ),
      el(
        'div',
        { class: 'corner' },
        this.beside,
        iconButton('close', 'Back to all pictures', () => this.close()),
      ),
    );
    // A button that was pressed may be gone by now, and the keys with it.
    document.addEventListener('keydown', (event) => this.at.open && this.key(event));
    this.at.addEventListener('cancel', (event) => {
      event.preventDefault();
      this.escape();
    });
    panes.addEventListener(
      'pointerdown',
      ({ clientX: x, clientY: y, pointerId: id, isPrimary, pointerType }) => {
        this.from = isPrimary && pointerType !== 'mouse' ? { x, y, id } : null;
      },
    );
    panes.addEventListener('pointerup', (event) => this.swiped(event));
    panes.addEventListener('pointercancel', () => (this.from = null));
    document.body.append(this.at);
  }

  open(i: number): void {
    this.current = i;
    this.held = null;
    if (!this.at.open) this.at.showModal();
    this.show();
  }

  /** Goes back to the sheet. */
  close(): void {
    this.at.close();
    this.held = null;
    this.current = null;
    this.moved(null);
  }

  get isOpen(): boolean {
    return this.at.open;
  }

  show(): void {
    if (this.current === null) return;
    const now = this.now();
    const many = this.page.pictures.length;
    const seen = this.held === null ? [this.current] : [this.held, this.current];
    this.at.classList.toggle('two', seen.length === 2);
    this.beside.setAttribute('aria-pressed', String(seen.length === 2));
    for (const [place, pane] of this.panes.entries()) {
      const i = seen[place];
      pane.at.hidden = i === undefined;
      if (i !== undefined) pane.show(this.page.pictures[i]!, i, many, now);
    }
    this.moved(this.current);
  }

  /** Holds the picture that is looked at, and shows the next one beside it; pressed again, that one alone. */
  private compare(): void {
    if (this.held !== null || this.current === null) {
      this.held = null;
      this.show();
      return;
    }
    this.held = this.current;
    if (!this.step(1) && !this.step(-1)) this.held = null;
    this.show();
  }

  private step(by: number): boolean {
    const all = this.visible().filter((i) => i !== this.held);
    const { current } = this;
    if (current === null) return false;
    const next = by > 0 ? all.find((i) => i > current) : all.findLast((i) => i < current);
    if (next === undefined) return false;
    this.current = next;
    this.show();
    return true;
  }

  private escape(): void {
    const writing = this.panes.find((pane) => pane.isWriting);
    if (writing) writing.closeForm();
    else if (this.held !== null) this.compare();
    else this.close();
  }

  private key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLTextAreaElement) return;
    const pane = this.panes[this.held === null ? 0 : 1];
    const deeds: Record<string, () => void> = {
      ArrowRight: () => this.step(1),
      ArrowLeft: () => this.step(-1),
      f: () => pane.toggleFavourite(),
      c: () => pane.toggleChoice(),
      r: () => pane.openForm(),
      b: () => this.compare(),
    };
    const deed = deeds[event.key.length === 1 ? event.key.toLowerCase() : event.key];
    if (!deed) return;
    event.preventDefault();
    deed();
  }

  private swiped({ clientX, clientY, pointerId }: PointerEvent): void {
    const { from } = this;
    this.from = null;
    // A picture that is enlarged is moved, not left.
    if (!from || from.id !== pointerId || (window.visualViewport?.scale ?? 1) > 1.05) return;
    const [x, y] = [clientX - from.x, clientY - from.y];
    if (Math.abs(x) > SWIPE && Math.abs(x) > 2 * Math.abs(y)) this.step(x < 0 ? 1 : -1);
  }
}
