/** Texts of the guide and the pictures in them, as they lie in the project; each comes when it is asked for. */
const TEXTS = import.meta.glob<string>('../../../../../docs/guide/*.md', {
  query: '?raw',
  import: 'default',
});
// The builder reads these words as they stand: nothing is spread into them.
const PICTURES = import.meta.glob<string>('../../../../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});
const ofName = <T>(all: Record<string, T>, name: string): T | undefined =>
  Object.entries(all).find(([file]) => file.endsWith(`/${name}`))?.[1];

/** The text of a page; null: there is no such page. */
export const guideText = (page: string): Promise<string> | null => ofName(TEXTS, `${page}.md`)?.() ?? null;
export const guidePicture = (name: string): string => ofName(PICTURES, name) ?? '';
