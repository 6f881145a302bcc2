import type { RawTags } from './facts';

/** Times as a clip's own headers give them, as text `yyyy:MM:dd HH:mm:ss`, perhaps with an offset behind. */
export interface ClipTimes {
  /** what the camera wrote as its wall clock, with the offset: QuickTime CreationDate, AVCHD DateTimeOriginal */
  creationDate?: string;
  dateTimeOriginal?: string;
  /** QuickTime's movie header: UTC by its standard (ISO/IEC 14496-12, 8.2.2), the wall clock in most cameras */
  createDate?: string;
  /** whether a telephone wrote it, which keeps to the standard */
  phone: boolean;
}

/** The moment a clip began, in the form of Exif's own fields. Empty where its headers say nothing. */
export function clipTime(times: ClipTimes): Pick<RawTags, 'dateTimeOriginal' | 'subSec' | 'offset'> {
  const told = [times.creationDate, times.dateTimeOriginal].map(parse).find((time) => time !== null);
  if (told) return told;
  const header = parse(times.createDate);
  if (!header) return {};
  // A camera's clips must stand beside its pictures, whose times are the wall clock's.
  return times.phone ? { ...header, offset: header.offset ?? '+00:00' } : header;
}

function parse(text: string | undefined): Pick<RawTags, 'dateTimeOriginal' | 'subSec' | 'offset'> | null {
  const match = /^(\d{4}:\d\d:\d\d \d\d:\d\d:\d\d)(?:\.(\d+))?\s*(Z|[+-]\d\d:\d\d)?/.exec(text ?? '');
  // Cameras without a clock write zeros, and QuickTime begins in 1904.
  if (!match || /^(0000|1904)/.test(match[1]!)) return null;
  return {
    dateTimeOriginal: match[1],
    subSec: match[2],
    offset: match[3] === 'Z' ? '+00:00' : match[3],
  };
}
