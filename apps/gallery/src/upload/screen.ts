import {
  dragsFiles,
  fromDrop,
  fromInput,
  isAtWork,
  isHere,
  type ChosenFile,
  type Sending,
} from '@arkiv/sending';
import { bytesInWords } from '@arkiv/core';
import { el } from '../dom';
import type { Now } from './state';
import { filesInWords, leftOutWords, sentWords, shareOf } from './words';

const STATE_WORDS: Partial<Record<Sending['state'], string>> = {
  reading: 'its checksum is made',
  sending: 'is on its way',
  proving: 'is read on the other side',
};
/** Files that are named at once: those at work, and those that failed; more of these would say no more. */
const LINES = 40;

export interface Deeds {
  chosen(files: Promise<ChosenFile[]>): void;
  again(): void;
  stop(): void;
  done(): void;
}

/** What is seen: where files are chosen, how far they are, and what has arrived. */
export class Screen {
  private readonly count = el('p', { role: 'status', class: 'count' });
  private readonly bar = el('progress', { max: 1, value: 0, 'aria-label': 'Sent', hidden: true });
  private readonly failed = el('ul', { class: 'failed', 'aria-label': 'Not arrived' });
  private readonly atWork = el('ul', { class: 'work', 'aria-label': 'On the way' });
  private readonly before = el('p', { class: 'why' });
  private readonly apart = el('p', { class: 'why' });
  private readonly sent = el('section', { 'aria-label': 'Sent and proven', class: 'sent' });
  private readonly again: HTMLButtonElement;
  private readonly stop: HTMLButtonElement;
  private readonly done: HTMLButtonElement;

  constructor(
    root: HTMLElement,
    private readonly left: HTMLElement,
    private readonly base: string,
    studio: string,
    private readonly deeds: Deeds,
  ) {
    this.again = el('button', { type: 'button', onclick: () => deeds.again() }, 'Try again');
    this.stop = el('button', { type: 'button', onclick: () => deeds.stop() }, 'Stop sending');
    this.done = el('button', { type: 'button', class: 'main', onclick: () => deeds.done() }, 'That is all');
    root.append(
      this.place(),
      ...[this.before, this.apart, this.count, this.bar, this.failed, this.again, this.atWork],
      el('p', { class: 'ends' }, this.done, this.stop),
      el(
        'p',
        { class: 'why' },
        'Each file is read again where it arrives and held against its checksum. If the line breaks or this page is ',
        `closed, choose the same files again: what has arrived is not sent twice. Keep your own until ${studio || 'they'} `,
        'told you that all is taken in.',
      ),
      this.sent,
    );
  }

  private place(): HTMLElement {
    const folders = 'webkitdirectory' in HTMLInputElement.prototype;
    const place = el(
      'div',
      { class: 'place', role: 'group', 'aria-label': 'Files to send' },
      this.picker('Choose pictures …', {}),
      ...(folders ? [this.picker('Choose a folder …', { webkitdirectory: true })] : []),
      el('span', { class: 'why' }, 'or drop them here, folders too'),
    );
    const over = (on: boolean) => place.classList.toggle('over', on);
    place.addEventListener('dragover', (event) => {
      if (!dragsFiles(event.dataTransfer!)) return;
      event.preventDefault();
      over(true);
    });
    place.addEventListener('dragleave', () => over(false));
    place.addEventListener('drop', (event) => {
      event.preventDefault();
      over(false);
      this.deeds.chosen(fromDrop(event.dataTransfer!));
    });
    return place;
  }

  private picker(words: string, more: Record<string, boolean>): HTMLElement {
    const input = el('input', { type: 'file', multiple: true, hidden: true, 'aria-label': words, ...more });
    input.addEventListener('change', () => {
      const chosen = fromInput(input.files!);
      input.value = '';
      this.deeds.chosen(Promise.resolve(chosen));
    });
    const button = el('button', { type: 'button', onclick: () => input.click() }, words);
    return el('span', {}, button, input);
  }

  /** Names files that were chosen and are not sent. */
  leaveOut(paths: readonly string[]): void {
    this.apart.textContent = leftOutWords(paths);
    this.apart.hidden = paths.length === 0;
  }

  show(files: readonly Sending[], { left, upload, sent }: Now): void {
    this.left.textContent = `room for ${bytesInWords(left)} more`;
    this.count.textContent = sentWords(files);
    this.bar.hidden = files.length === 0;
    this.bar.value = shareOf(files);
    const failed = files.filter(({ state }) => state === 'failed');
    this.failed.replaceChildren(
      ...failed.slice(0, LINES).map(({ path, reason }) => el('li', {}, `${path}: ${reason ?? ''}`)),
    );
    this.again.hidden = failed.length === 0;
    const atWork = files.filter(isAtWork);
    this.atWork.replaceChildren(
      ...atWork.map(({ path, state }) => el('li', {}, `${path} ${STATE_WORDS[state] ?? ''}`)),
    );
    const busy = files.some((one) => one.state === 'waiting' || isAtWork(one));
    this.stop.hidden = !busy;
    this.done.disabled = busy || (upload?.files ?? 0) + files.filter(isHere).length === 0;
    // What arrived before this page was opened.
    this.before.hidden = files.length > 0 || !upload || upload.files === 0;
    this.before.textContent = upload
      ? `${filesInWords(upload.files)}, ${bytesInWords(upload.bytes)}, arrived before. Choose the rest, or the same once more.`
      : '';
    this.sent.hidden = sent.length === 0;
    this.sent.replaceChildren(
      el('h2', {}, 'Arrived so far'),
      ...sent.map(({ id, files: count, bytes }) =>
        el(
          'p',
          {},
          `${filesInWords(count)}, ${bytesInWords(bytes)}, arrived as sent. `,
          el('a', { href: `${this.base}/receipt/${id}`, download: true }, 'Their checksums'),
        ),
      ),
    );
  }
}
