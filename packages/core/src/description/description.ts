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
  headline: string | null;
  caption: string | null;
  sublocation: string | null;
  city: string | null;
  region: string | null;
  country: string | null;
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
  headline: null,
  caption: null,
  sublocation: null,
  city: null,
  region: null,
  country: null,
  keywords: [],
};
