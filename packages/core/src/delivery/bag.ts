import type { ManifestLine } from './manifest';

/** What a bag says of itself (RFC 8493, 2.1.1). */
export const BAG_DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';
export const BAG_DECLARATION_NAME = 'bagit.txt';
export const BAG_INFO_NAME = 'bag-info.txt';
export const BAG_MANIFEST_NAME = 'manifest-sha256.txt';
export const BAG_TAG_MANIFEST_NAME = 'tagmanifest-sha256.txt';
/** The folder of a bag that holds what is handed over. */
export const BAG_PAYLOAD = 'data';

/**
 * A manifest of a bag, of its payload or of its own texts: digest, two blanks, path from the bag's folder on, with `/`. Line breaks and
 * per cent signs of a path are written as per cent and two digits, and nothing else is (RFC 8493, 2.1.3). Where no path has any of
 * these, `sha256sum -c` reads it as it is.
 */
export function bagManifestText(lines: readonly ManifestLine[]): string {
  return lines
    .map(({ sha256, path }) => {
      const escaped = path.replace(/[%\n\r]/g, (c) => (c === '%' ? '%25' : c === '\n' ? '%0A' : '%0D'));
      return `${sha256}  ${escaped}\n`;
    })
    .join('');
}

/** What a bag says of what it holds (RFC 8493, 2.2.2). */
export interface BagInfo {
  /** who hands it over; empty: nobody says */
  from: string;
  /** what it is, in words */
  words: string;
  /** YYYY-MM-DD */
  day: string;
  /** its payload */
  bytes: number;
  files: number;
}

/** The text of `bag-info.txt`: one value a line, in which there is no line break. */
export function bagInfoText({ from, words, day, bytes, files }: BagInfo): string {
  const said: readonly (readonly [string, string])[] = [
    ['Source-Organization', from],
    ['External-Description', words],
    ['Bagging-Date', day],
    ['Payload-Oxum', `${bytes}.${files}`],
    ['Bag-Software-Agent', 'Arkiv'],
  ];
  return said
    .map(([label, value]) => [label, value.replace(/\s+/g, ' ').trim()] as const)
    .filter(([, value]) => value !== '')
    .map(([label, value]) => `${label}: ${value}\n`)
    .join('');
}
