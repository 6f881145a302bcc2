import { bytesInWords } from '@arkiv/core';
import { dataElement, html, type Markup } from '../../outside/html';
import { page, type PageFiles } from '../../outside/page';

/** Pictures that are asked for at once: what the first screen of a telephone or a desk shows. The rest come as they are come to. */
const AT_ONCE = 8;
/** Shapes that the style sheet knows, width through height in hundredths: from a strip that stands to one that lies. */
const [NARROWEST, WIDEST, STEP] = [40, 300, 5];

/** A picture of the page. */
export interface PagePicture {
  key: string;
  version: number;
  name: string;
  /** pixels of the largest */
  width: number;
  height: number;
}

/** What a gallery's page shows; its script reads the same. */
export interface PageState {
  /** the gallery's own address, without the machine's */
  base: string;
  title: string;
  words: string;
  /** when it is closed by itself; null: it is not */
  until: number | null;
  pictures: PagePicture[];
  forms: { spec: number; name: string; words: string; files: number; bytes: number }[];
  /** what changes while one looks */
  now: GuestState;
}

export interface GuestState {
  me: string;
  rights: { choose: boolean; remark: boolean; download: boolean };
  /** how many are to be chosen, 0: any number; null: none are */
  most: number | null;
  /** keys of pictures that are chosen, with who did */
  chosen: Record<string, string>;
  favourites: string[];
  remarks: Record<
    string,
    { id: number; text: string; x: number | null; y: number | null; by: string; mine: boolean }[]
  >;
  sent: { by: string; at: number } | null;
  /** tells which pictures there are, and how they are made: another one means that the page is of before */
  pictures: { count: number; stamp: string };
}

export function galleryPage(files: PageFiles, state: PageState): string {
  const { title, words, pictures, until, base, forms, now } = state;
  const called = shortNames(pictures.map(({ name }) => name));
  const many = pictures.length === 1 ? '1 picture' : `${pictures.length} pictures`;
  const open = until === null ? '' : ` · open until ${new Date(until).toISOString().slice(0, 10)}`;
  return page(
    files,
    title,
    html`<header class="top">
        <h1>${title}</h1>
        ${words !== '' && html`<p class="words">${words}</p>`}
        <p class="facts">${many}${open} · you are ${now.me}</p>
        <div class="shown" role="group" aria-label="Which pictures are shown"></div>
      </header>
      <main>
        <ul class="sheet" aria-label="Pictures">
          ${pictures.map((picture, i) => cell(base, picture, called[i]!, i))}
        </ul>
        <p class="nothing" hidden></p>
        ${now.rights.download && forms.length > 0 && takeAll(base, forms)}
      </main>
      <aside class="bar" aria-label="Your choice" hidden></aside>
      <p class="said" role="status"></p>
      <noscript
        ><p class="problem">To choose pictures and to write remarks, the page needs its script.</p></noscript
      >
      ${dataElement('state', state)}`,
    files.gallery,
  );
}

function cell(
  base: string,
  { key, version, name, width, height }: PagePicture,
  called: string,
  i: number,
): Markup {
  const at = (size: string) => `${base}/p/${key}/${version}/${size}`;
  return html`<li class="cell ${shapeOf(width, height)}" data-key="${key}">
    <a href="${at('large')}" aria-label="Picture ${i + 1}, ${name}"
      ><img
        src="${at('small')}"
        width="${width}"
        height="${height}"
        alt=""
        ${i < AT_ONCE ? html`fetchpriority="high"` : html`loading="lazy"`}
        decoding="async"
    /></a>
    <p class="name" title="${name}">${called}</p>
    <p class="deeds"></p>
  </li>`;
}

const takeAll = (base: string, forms: PageState['forms']): Markup =>
  html`<section class="take" aria-labelledby="take">
    <h2 id="take">Take all along</h2>
    <ul>
      ${forms.map(
        ({ spec, name, files, bytes }) =>
          html`<li>
            <a href="${base}/all/${spec}" download>${name}</a>
            <span>${files === 1 ? '1 file' : `${files} files`}, ${bytesInWords(bytes)}, as a zip</span>
          </li>`,
      )}
    </ul>
  </section>`;

/** What tells names apart: what all begin with, up to a mark between parts, is left out. */
export function shortNames(names: readonly string[]): string[] {
  const [first = ''] = names;
  if (names.length < 2) return [...names];
  let same = 0;
  while (same < first.length && names.every((name) => name[same] === first[same])) same += 1;
  const from = first.slice(0, same).search(/[^_\-. ]*$/);
  return names.map((name) => name.slice(from));
}

/** The class of a picture's shape: the style sheet lays a row out by it, before a byte of the picture has come. */
export function shapeOf(width: number, height: number): string {
  const hundredths = Math.round((100 * width) / height / STEP) * STEP;
  return `r${Math.min(WIDEST, Math.max(NARROWEST, hundredths))}`;
}
