import type { ReturnedFacts } from '@arkiv/core';

/** What tags of any group are called that tell what a picture was made from (XMP Media Management, ISO 16684-1, 8.4; and our own). */
const IDS = /^XMP-[^:]+:(Frame)$/;
const SOURCES = /^XMP-xmpMM:(?:DerivedFrom|Ingredients|ManagedFrom)(?:FilePath|FileName)$/;
const ID = /^[0-9A-HJKMNP-TV-Z]{26}$/;

type Said = { -readonly [K in Exclude<keyof ReturnedFacts, 'name' | 'frameIds'>]: ReturnedFacts[K] } & {
  frameIds: string[];
};

/** What a picture's metadata say of its origin; `tags`: as the metadata tool gives them, `Group:Tag` → value. */
export function saidInTags(tags: Readonly<Record<string, unknown>>): Said {
  const frameIds: string[] = [];
  const derivedFrom: string[] = [];
  let preserved: string | null = null;
  let local: string | null = null;
  for (const [tag, value] of Object.entries(tags)) {
    const texts = (Array.isArray(value) ? value : [value]).filter(
      (one): one is string => typeof one === 'string',
    );
    if (IDS.test(tag)) frameIds.push(...texts.filter((one) => ID.test(one)));
    if (SOURCES.test(tag)) derivedFrom.push(...texts.filter((one) => one.trim() !== ''));
    if (tag === 'XMP-xmpMM:PreservedFileName') preserved = texts[0] ?? null;
    if (tag === 'ExifIFD:DateTimeOriginal') local = isoLocal(texts[0] ?? '');
  }
  return { frameIds, derivedFrom, preserved, local };
}

/** Exif's way of writing a time, `YYYY:MM:DD HH:mm:ss`, as ours. */
function isoLocal(text: string): string | null {
  const [, day, time] = /^(\d{4}:\d{2}:\d{2}) (\d{2}:\d{2}:\d{2})/.exec(text) ?? [];
  return day && time ? `${day.replaceAll(':', '-')}T${time}` : null;
}
