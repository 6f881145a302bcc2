import { EMPTY_DESCRIPTION, type Description } from '../description/description';
import type { MetadataChoice } from './outputSpec';

const PLACES = ['sublocation', 'city', 'region', 'country', 'countryCode'] as const;

/**
 * What of a frame's description goes along in a delivered file. `isTold`: whether a keyword may go to clients. The note to the editor,
 * stages and takes are no part of a description, and never do.
 */
export function toldToClients(
  description: Readonly<Description>,
  choice: MetadataChoice,
  isTold: (keyword: string) => boolean,
): Description {
  if (choice === 'none') return { ...EMPTY_DESCRIPTION, persons: [], keywords: [] };
  const { creator, credit, rights, usageTerms, email, phone, website } = description;
  if (choice === 'rights')
    return {
      ...EMPTY_DESCRIPTION,
      ...{ persons: [], keywords: [], creator, credit, rights, usageTerms, email, phone, website },
    };
  // Field by field: who calls may hand in more than a description.
  const fields = Object.keys(EMPTY_DESCRIPTION) as (keyof Description)[];
  const whole = Object.fromEntries(
    fields.map((field) => [field, description[field]]),
  ) as unknown as Description;
  const told: Description = { ...whole, keywords: whole.keywords.filter(isTold) };
  if (choice === 'butPlaces') for (const place of PLACES) told[place] = null;
  return told;
}
