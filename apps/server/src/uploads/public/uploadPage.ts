import { dataElement, html } from '../../outside/html';
import { page, type PageFiles } from '../../outside/page';

/** What the page of a link shows; its script reads the same. */
export interface SendingState {
  /** the link's own address, without the machine's */
  base: string;
  /** where the script finds the worker that reads files */
  hash: string;
  title: string;
  /** who asks for pictures */
  studio: string;
  me: string;
  /** milliseconds since 1970 UTC; null: until it is taken back */
  until: number | null;
  now: SendingNow;
}

export interface SendingNow {
  /** bytes that may still come */
  left: number;
  /** what is coming; null: nothing is */
  upload: { id: string; files: number; bytes: number } | null;
  /** what was sent and said to be all, while it waits to be taken in; the newest first */
  sent: { id: string; files: number; bytes: number }[];
}

export function sendingPage(files: PageFiles, state: SendingState): string {
  const { title, studio, me, until } = state;
  const open = until === null ? '' : ` · open until ${new Date(until).toISOString().slice(0, 10)}`;
  return page(
    files,
    title,
    html`<header class="top">
        <h1>${title}</h1>
        <p class="words">${studio === '' ? 'You are asked' : `${studio} asks you`} for pictures.</p>
        <p class="facts">You are ${me}${open} · <span class="left"></span></p>
      </header>
      <main class="sending"></main>
      <p class="said" role="status"></p>
      <noscript
        ><p class="problem">
          To send pictures, the page needs its script: it makes the checksum of each before it goes.
        </p></noscript
      >
      ${dataElement('state', state)}`,
    files.upload,
  );
}
