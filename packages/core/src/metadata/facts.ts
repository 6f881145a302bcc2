import { parseExifTime, type CaptureTime } from '../time/captureTime';

/** Tags as a reader gives them, before we make sense of them. Rationals as [numerator, denominator]. */
export interface RawTags {
  make?: string;
  model?: string;
  serial?: string;
  lens?: string;
  dateTimeOriginal?: string;
  subSec?: string;
  offset?: string;
  exposureTime?: [number, number];
  fNumber?: [number, number];
  iso?: number;
  focalLength?: [number, number];
  /** Exif ExposureBiasValue: may be below zero */
  exposureBias?: [number, number];
  /** Exif SubjectDistance: metres; 0 is unknown, 2³² − 1 over anything is infinity */
  subjectDistance?: [number, number];
  width?: number;
  height?: number;
  orientation?: number;
  /** Exif Artist, Copyright, ImageDescription: what the camera was told to write */
  artist?: string;
  copyright?: string;
  imageDescription?: string;
  /** XMP Rating and Label: given in the camera, or by a program before */
  rating?: number;
  label?: string;
  /** seconds that a clip lasts */
  duration?: number;
}

/** A number as it was written, with the text that photographers read. */
export interface Shown {
  value: number;
  text: string;
}

/** What is known of a frame from its camera. Everything may be missing. */
export interface FrameFacts {
  capture: CaptureTime | null;
  make: string | null;
  model: string | null;
  serial: string | null;
  lens: string | null;
  /** seconds */
  exposure: Shown | null;
  /** f-number */
  aperture: Shown | null;
  iso: number | null;
  /** millimetres */
  focalLength: number | null;
  /** by how many EV the picture was exposed otherwise than the camera metered */
  exposureBias: number | null;
  /** what the lens was focused on, in dioptres (one over metres; 0: infinity), as steps of a lens are even in these */
  focus: number | null;
  /** pixels, before orientation */
  width: number | null;
  height: number | null;
  /** Exif orientation 1…8 */
  orientation: number;
  /** a clip's length; null for pictures */
  seconds: number | null;
  /** what the camera was told to write of itself */
  creator: string | null;
  rights: string | null;
  caption: string | null;
  /** stars that were given before, 1…5, or −1 of a reject (XMP, ISO 16684-1, 8.4); null: none */
  rating: number | null;
  /** text of a label that was given before */
  label: string | null;
}

export function factsFromTags(tags: RawTags): FrameFacts {
  return {
    capture: parseExifTime(tags.dateTimeOriginal, tags.subSec, tags.offset),
    make: clean(tags.make),
    model: clean(tags.model),
    serial: clean(tags.serial),
    lens: clean(tags.lens),
    exposure: exposureShown(tags.exposureTime),
    aperture: apertureShown(tags.fNumber),
    iso: positive(tags.iso),
    focalLength: ratio(tags.focalLength),
    exposureBias: biasOf(tags.exposureBias),
    focus: dioptres(tags.subjectDistance),
    width: positive(tags.width),
    height: positive(tags.height),
    orientation: tags.orientation && tags.orientation >= 1 && tags.orientation <= 8 ? tags.orientation : 1,
    seconds: positive(tags.duration),
    creator: clean(tags.artist),
    rights: clean(tags.copyright),
    caption: clean(tags.imageDescription),
    rating: ratingOf(tags.rating),
    label: clean(tags.label),
  };
}

/** What cameras and programs write: 1…5, or −1; 0 is none, and whatever else is no rating. */
const ratingOf = (rating: number | undefined): number | null =>
  rating !== undefined && Number.isInteger(rating) && rating >= -1 && rating <= 5 && rating !== 0
    ? rating
    : null;

/** Tells bodies apart: make, model and serial. Empty when the camera said nothing. */
export function bodyKey(facts: Pick<FrameFacts, 'make' | 'model' | 'serial'>): string {
  return [facts.make, facts.model, facts.serial].filter(Boolean).join(' · ');
}

/**
 * What bodies are called on screen, by their keys: the model, with its maker unless the model begins with it. Bodies of
 * one model are told apart by their serials, which otherwise nobody reads.
 */
export function bodyNames(keys: Iterable<string>): ReadonlyMap<string, string> {
  const told = [...new Set(keys)].map((key) => {
    const parts = key.split(' · ');
    if (parts.length > 1 && parts[1]!.toLowerCase().startsWith(parts[0]!.toLowerCase())) parts.shift();
    const whole = parts.join(' · ');
    // The serial is the last of three parts; where only two are known, which ones they are is not.
    const short = key.split(' · ').length > 2 ? parts.slice(0, -1).join(' ') : whole;
    return { key, short, whole };
  });
  const times = new Map<string, number>();
  for (const { short } of told) times.set(short, (times.get(short) ?? 0) + 1);
  return new Map(told.map(({ key, short, whole }) => [key, times.get(short)! > 1 ? whole : short]));
}

/** The model out of a body's key, whose last part is the serial where there is one. */
export function modelOfBody(key: string | null, serial: string | null): string {
  const parts = (key ?? '').split(' · ');
  if (serial !== null && parts.at(-1) === serial) parts.pop();
  return parts.at(-1) ?? '';
}

/** Exposure time as photographers read it: 1/60, 0.5 → 1/2, 2.5 → 2.5. Exif ExposureTime (CIPA DC-008, 4.6.6). */
export function exposureShown(time: [number, number] | undefined): Shown | null {
  const value = ratio(time);
  if (value === null) return null;
  if (value >= 1) return { value, text: `${trim(value)} s` };
  const under = 1 / value;
  // Cameras write 10/600 for 1/60; the nearest whole denominator is what the dial says.
  return { value, text: under >= 1.5 ? `1/${Math.round(under)}` : `${trim(value)} s` };
}

function apertureShown(number: [number, number] | undefined): Shown | null {
  const value = ratio(number);
  return value === null ? null : { value, text: `f/${trim(value)}` };
}

/** APEX aperture value, Av = 2 log2 N (CIPA DC-008, annex C). */
export function apexAperture(fNumber: number): number {
  return 2 * Math.log2(fNumber);
}

/** APEX time value, Tv = −log2 t. */
export function apexTime(seconds: number): number {
  return -Math.log2(seconds);
}

function trim(value: number): string {
  return String(Math.round(value * 10) / 10);
}

function ratio(pair: [number, number] | undefined): number | null {
  if (!pair || !(pair[0] > 0) || !(pair[1] > 0)) return null;
  return pair[0] / pair[1];
}

/** Exif ExposureBiasValue (CIPA DC-008, 4.6.6): a signed rational; beyond ten stops it is no bias. */
function biasOf(pair: [number, number] | undefined): number | null {
  if (!pair || pair[1] === 0) return null;
  const value = pair[0] / pair[1];
  return Math.abs(value) <= 10 ? Math.round(value * 100) / 100 : null;
}

/** Exif SubjectDistance (CIPA DC-008, 4.6.6), as dioptres to a thousandth: 0/x is unknown, 0xFFFFFFFF/x is infinity, which some write as 1/0. */
function dioptres(pair: [number, number] | undefined): number | null {
  if (pair && pair[0] > 0 && (pair[0] === INFINITELY_FAR || pair[1] === 0)) return 0;
  const metres = ratio(pair);
  return metres === null ? null : Math.round(1000 / metres) / 1000;
}

const INFINITELY_FAR = 0xffffffff;

function positive(value: number | undefined): number | null {
  return value !== undefined && Number.isFinite(value) && value > 0 ? value : null;
}

function clean(text: string | undefined): string | null {
  // Exif text is padded with NUL or blanks.
  // eslint-disable-next-line no-control-regex -- NUL is the padding of Exif text
  const value = text?.replace(/\u0000/g, '').trim();
  return value ? value : null;
}
