/**
 * When the shutter opened. The camera's own words stay apart from what we know better: `local`, `millis` and
 * `offsetMinutes` are as written; `correctionMillis` is the body's clock correction, added for order and gaps.
 */
export interface CaptureTime {
  /** `YYYY-MM-DDTHH:mm:ss`, the camera's wall clock */
  local: string;
  /** 0…999 */
  millis: number;
  /** minutes east of UTC, or null where the camera wrote none */
  offsetMinutes: number | null;
  correctionMillis: number;
}

/**
 * Exif DateTimeOriginal (`YYYY:MM:DD HH:MM:SS`, CIPA DC-008 4.6.6), SubSecTimeOriginal (digits after the point)
 * and OffsetTimeOriginal (`+HH:MM`). Null where there is no valid date.
 */
export function parseExifTime(
  dateTime: string | undefined,
  subSec?: string,
  offset?: string,
): CaptureTime | null {
  const match = /^(\d{4})[:-](\d{2})[:-](\d{2})[ T](\d{2}):(\d{2}):(\d{2})/.exec(dateTime?.trim() ?? '');
  if (!match) return null;
  const [, y, mo, d, h, mi, s] = match as unknown as string[];
  const local = `${y}-${mo}-${d}T${h}:${mi}:${s}`;
  const utc = Date.parse(`${local}Z`);
  if (Number.isNaN(utc) || new Date(utc).toISOString().slice(0, 19) !== local) return null;
  const digits = /^\d+/.exec(subSec?.trim() ?? '')?.[0] ?? '';
  return {
    local,
    millis: digits ? Number(digits.padEnd(3, '0').slice(0, 3)) : 0,
    offsetMinutes: parseOffset(offset),
    correctionMillis: 0,
  };
}

/** The capture time out of a frame as it is kept, column by column; null where the camera wrote none. */
export function keptCapture(kept: Omit<CaptureTime, 'local'> & { local: string | null }): CaptureTime | null {
  const { local, millis, offsetMinutes, correctionMillis } = kept;
  return local === null ? null : { local, millis, offsetMinutes, correctionMillis };
}

/** `+02:00` → 120, `Z` → 0, anything else null. */
export function parseOffset(text: string | undefined): number | null {
  const value = text?.trim() ?? '';
  if (value === 'Z') return 0;
  const match = /^([+-])(\d{2}):(\d{2})$/.exec(value);
  if (!match) return null;
  const minutes = Number(match[2]) * 60 + Number(match[3]);
  // ISO 8601 zones in use run from −12:00 to +14:00.
  if (minutes > 14 * 60) return null;
  return match[1] === '-' ? -minutes : minutes;
}

/** Milliseconds since 1970 UTC, corrected; `zoneMinutes` stands in where the camera wrote no offset. */
export function instantMillis(time: CaptureTime, zoneMinutes: number): number {
  const wall = Date.parse(`${time.local}Z`) + time.millis;
  return wall - (time.offsetMinutes ?? zoneMinutes) * 60_000 + time.correctionMillis;
}

/** The corrected wall clock as `YYYY-MM-DDTHH:mm:ss.SSS`. */
export function correctedLocal(time: CaptureTime): string {
  // Without a correction the written time stands: ten thousand names are made while a title is typed.
  if (time.correctionMillis === 0) return `${time.local}.${String(time.millis).padStart(3, '0')}`;
  return new Date(Date.parse(`${time.local}Z`) + time.millis + time.correctionMillis)
    .toISOString()
    .slice(0, 23);
}

/**
 * The day a frame belongs to, `YYYY-MM-DD`: a shoot's day begins at `dayStartHour` (default 4), so that a party
 * that runs past midnight stays in one folder.
 */
export function shootDay(time: CaptureTime, dayStartHour: number): string {
  if (time.correctionMillis === 0 && Number(time.local.slice(11, 13)) >= dayStartHour)
    return time.local.slice(0, 10);
  const shifted =
    Date.parse(`${time.local}Z`) + time.millis + time.correctionMillis - dayStartHour * 3_600_000;
  return new Date(shifted).toISOString().slice(0, 10);
}

/** LDML letters (UTS #35) that name patterns know, with the slice of `YYYY-MM-DDTHH:mm:ss.SSS` they stand for. */
const LDML: Readonly<Record<string, (iso: string) => string>> = {
  yyyy: (iso) => iso.slice(0, 4),
  yy: (iso) => iso.slice(2, 4),
  MM: (iso) => iso.slice(5, 7),
  dd: (iso) => iso.slice(8, 10),
  HH: (iso) => iso.slice(11, 13),
  mm: (iso) => iso.slice(14, 16),
  ss: (iso) => iso.slice(17, 19),
  SSS: (iso) => iso.slice(20, 23),
};

export type DateFormatResult = { ok: true; text: string } | { ok: false; unknown: string };

/** Formats `YYYY-MM-DDTHH:mm:ss.SSS` by LDML letters; other characters stand for themselves, letters in 'quotes' too. */
export function formatLdml(iso: string, format: string): DateFormatResult {
  let text = '';
  for (const part of format.match(/'[^']*'|([A-Za-z])\1*|[^A-Za-z']+|'/g) ?? []) {
    if (part.startsWith("'")) text += part.slice(1, -1);
    else if (/^[A-Za-z]/.test(part)) {
      const letter = LDML[part];
      if (!letter) return { ok: false, unknown: part };
      text += letter(iso);
    } else text += part;
  }
  return { ok: true, text };
}
