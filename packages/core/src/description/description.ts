/**
 * What is said about a frame in words, by the IPTC Photo Metadata Standard. Null: nothing said. Each field's place in
 * a sidecar is in docs/formats.md.
 */
export interface Description {
  creator: string | null;
  credit: string | null;
  rights: string | null;
  usageTerms: string | null;
  email: string | null;
  phone: string | null;
  website: string | null;
  title: string | null;
  headline: string | null;
  caption: string | null;
  /** to whoever publishes it: embargo, how it may be used */
  instructions: string | null;
  sublocation: string | null;
  city: string | null;
  region: string | null;
  country: string | null;
  /** of the country, by ISO 3166 */
  countryCode: string | null;
  /** who is shown, each once, in the order they were given */
  persons: string[];
  /** each once, in the order they were given */
  keywords: string[];
}

export const EMPTY_DESCRIPTION: Readonly<Description> = {
  creator: null,
  credit: null,
  rights: null,
  usageTerms: null,
  email: null,
  phone: null,
  website: null,
  title: null,
  headline: null,
  caption: null,
  instructions: null,
  sublocation: null,
  city: null,
  region: null,
  country: null,
  countryCode: null,
  persons: [],
  keywords: [],
};

/** The text fields of a description, with what they are called and what belongs into them (IPTC Core 1.4). */
export const DESCRIPTION_FIELDS = {
  creator: 'Creator',
  credit: 'Credit line',
  rights: 'Copyright notice',
  usageTerms: 'Usage terms',
  email: 'E-mail',
  phone: 'Phone',
  website: 'Website',
  title: 'Title',
  headline: 'Headline',
  caption: 'Caption',
  instructions: 'Instructions',
  sublocation: 'Sublocation',
  city: 'City',
  region: 'Region',
  country: 'Country',
  countryCode: 'Country code',
} as const satisfies Record<Exclude<keyof Description, 'keywords' | 'persons'>, string>;
export type DescriptionField = keyof typeof DESCRIPTION_FIELDS;
