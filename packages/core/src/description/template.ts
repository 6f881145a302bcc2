import type { Label } from '../marks/marks';
import { parsePattern, renderText, type NameFacts, type PatternProblem } from '../naming/pattern';
import { EMPTY_DESCRIPTION, type Description, type DescriptionField } from './description';
import { joinedKeywords, keywordsIn } from './keywords';

/** Metadata that is stamped on many frames. Texts may use the fields of name patterns. */
export interface MetadataTemplate {
  id: string;
  name: string;
  /** `replace`: over what the camera wrote; `fill`: only where it wrote nothing */
  mode: 'replace' | 'fill';
  fields: Partial<Record<DescriptionField, string>>;
  /** separated by commas or line ends */
  keywords: string;
  /** who is shown, separated in the same way; missing: nobody */
  persons?: string;
  /** stars that frames begin with, 0…5; missing: none */
  stars?: number;
  /** label that frames begin with; missing or null: none */
  label?: Label | null;
}

/** What a camera was set to write itself. */
export type CameraWords = Pick<Description, 'creator' | 'rights' | 'caption'>;

/** The first field of a template that cannot be read, with why. */
export function templateProblem(
  template: Pick<MetadataTemplate, 'fields' | 'keywords' | 'persons'>,
): { field: DescriptionField | 'keywords' | 'persons'; text: string; problem: PatternProblem } | null {
  const texts = [
    ...(Object.entries(template.fields) as [DescriptionField, string][]),
    ['persons', template.persons ?? ''] as const,
    ['keywords', template.keywords] as const,
  ];
  for (const [field, text] of texts) {
    const parsed = parsePattern(text);
    if (!parsed.ok) return { field, text, problem: parsed.problem };
  }
  return null;
}

/** What a template says of one frame; what it leaves empty is left out. */
export function templateSays(
  { fields, keywords, persons }: Pick<MetadataTemplate, 'fields' | 'keywords' | 'persons'>,
  facts: NameFacts,
): { texts: Partial<Record<DescriptionField, string>>; keywords: string[]; persons: string[] } {
  const texts: Partial<Record<DescriptionField, string>> = {};
  for (const [field, text] of Object.entries(fields) as [DescriptionField, string][]) {
    const said = render(text, facts);
    if (said !== '') texts[field] = said;
  }
  const words = (text: string) => keywordsOf(render(text, facts));
  return { texts, keywords: words(keywords), persons: words(persons ?? '') };
}

/** How a frame is described that comes with a template. Fields that it leaves empty keep what the camera wrote. */
export function describeFrame(
  template: MetadataTemplate | null,
  facts: NameFacts,
  camera: Partial<CameraWords> = {},
): Description {
  // Whatever else is known of the frame is no part of its description.
  const { creator = null, rights = null, caption = null } = camera;
  const description: Description = { ...EMPTY_DESCRIPTION, creator, rights, caption, keywords: [] };
  if (!template) return description;
  const { texts, keywords, persons } = templateSays(template, facts);
  for (const [field, said] of Object.entries(texts) as [DescriptionField, string][])
    if (template.mode === 'replace' || description[field] === null) description[field] = said;
  return { ...description, keywords, persons };
}

/** Each keyword once, without regard to case, in the order given. */
export const keywordsOf = (text: string): string[] => keywordsIn(joinedKeywords(text.split(/[,;\n]/)));

function render(text: string, facts: NameFacts): string {
  const parsed = parsePattern(text);
  return parsed.ok ? renderText(parsed.tokens, facts).trim() : '';
}
