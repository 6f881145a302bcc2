import { Marked } from 'marked';
import { ACTIONS } from '../../keys/actions';
import { shownKey, type Bindings } from '../../keys/bindings';

/** What a page of the guide needs of the program: the keys as they are bound now, and where a picture lies. */
export interface GuideWorld {
  bindings: Bindings;
  /** address of a picture by its file's name; empty: there is none */
  picture: (name: string) => string;
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!);

/**
 * A page of the guide as HTML. `[f](key:keep)` is the key that an action has now, `[text](page.md)` another page, a picture one of the
 * program's own; what leads elsewhere in the project is text, as it does not go along.
 */
export function guideHtml(markdown: string, { bindings, picture }: GuideWorld): string {
  const marked = new Marked({
    renderer: {
      link({ href, tokens }) {
        const text = this.parser.parseInline(tokens);
        if (href.startsWith('key:')) {
          const action = ACTIONS.find(({ id }) => id === href.slice('key:'.length));
          const [key] = action ? bindings.keysOf(action) : [];
          return `<kbd>${key === undefined ? 'no key' : escaped(shownKey(key))}</kbd>`;
        }
        const page = /^([a-z]+|README)\.md$/.exec(href)?.[1];
        return page ? `<a href="/guide/${page}">${text}</a>` : text;
      },
      image({ href, text }) {
        const src = picture(href.split('/').at(-1)!);
        return src === '' ? '' : `<img src="${escaped(src)}" alt="${escaped(text)}" loading="lazy" />`;
      },
    },
  });
  return marked.parse(markdown.replace(/^<!--.*-->\n/, ''), { async: false });
}
