import type { ErrorBody } from '@arkiv/core';
import { html, type Markup } from './html';

/** Where the pages' scripts and style are found, with a digest of each, so that browsers may keep them. */
export interface PageFiles {
  gallery: string;
  upload: string;
  /** of the worker that reads files */
  hash: string;
  style: string;
}

/** A page for people outside, in full. `script`: the address of its script; null: it needs none. */
export const page = (files: PageFiles, title: string, body: Markup, script: string | null): string =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="robots" content="noindex, nofollow" />
        <title>${title}</title>
        <link rel="icon" href="data:," />
        <link rel="stylesheet" href="${files.style}" />
        ${script !== null && html`<script type="module" src="${script}"></script>`}
      </head>
      <body>
        ${body}
      </body>
    </html>`.text;

/** Something that cannot be shown, and what to do. */
export const problemPage = (files: PageFiles, { message, next }: ErrorBody): string =>
  page(
    files,
    message,
    html`<main class="door">
      <h1>${message}</h1>
      <p>${next}</p>
    </main>`,
    null,
  );

/** One's way in: a name where many share the address, a pass code where it asks for one. */
export function doorPage(
  files: PageFiles,
  base: string,
  title: string,
  { asksName, asksCode, forWhom }: { asksName: boolean; asksCode: boolean; forWhom: string },
  { why, deed }: { why: string; deed: string },
  problem: ErrorBody | null,
): string {
  return page(
    files,
    title,
    html`<main class="door">
      <h1>${title}</h1>
      ${forWhom !== '' && html`<p>For ${forWhom}</p>`}
      ${problem && html`<p role="alert" class="problem">${problem.message} ${problem.next}</p>`}
      <form method="post" action="${base}/in">
        ${
          asksName &&
          html`<label>Your name <input name="name" required maxlength="60" autocomplete="name" /></label>
            <p class="why">${why}</p>`
        }
        ${
          asksCode &&
          html`<label
            >Pass code
            <input
              name="code"
              required
              maxlength="40"
              autocomplete="off"
              autocapitalize="characters"
              spellcheck="false"
          /></label>`
        }
        <button class="main">${deed}</button>
      </form>
    </main>`,
    null,
  );
}
