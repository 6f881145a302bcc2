import { DESCRIPTION_FIELDS, type DescriptionField } from '@arkiv/core';

/** A field as it is asked for. */
export interface AskedField {
  field: DescriptionField;
  label: string;
  /** rows of a text that may have several lines; not given: one line */
  rows?: number;
  /** shares its line with the next */
  half?: true;
}

const asked = (field: DescriptionField, more: Omit<AskedField, 'field' | 'label'> = {}): AskedField => ({
  field,
  label: DESCRIPTION_FIELDS[field],
  ...more,
});

/** What is said of each picture anew; the order is that of the hand. */
export const OWN_FIELDS: readonly AskedField[] = [
  asked('caption', { rows: 3 }),
  asked('headline'),
  asked('title'),
];
export const PLACE_FIELDS: readonly AskedField[] = [
  asked('sublocation'),
  asked('city', { half: true }),
  asked('region', { half: true }),
  asked('country', { half: true }),
  asked('countryCode', { half: true }),
];
/** What is alike in most pictures of a studio, and comes with its template. */
export const RIGHTS_FIELDS: readonly AskedField[] = [
  asked('instructions', { rows: 2 }),
  asked('creator', { half: true }),
  asked('credit', { half: true }),
  asked('rights'),
  asked('usageTerms', { rows: 2 }),
  asked('email', { half: true }),
  asked('phone', { half: true }),
  asked('website'),
];
export const ALL_FIELDS = [...OWN_FIELDS, ...PLACE_FIELDS, ...RIGHTS_FIELDS];
