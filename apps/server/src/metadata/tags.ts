import type { RawTags } from '@arkiv/core';
import ExifReader from 'exifreader';

type Tag = { value?: unknown; description?: string } | undefined;

/**
 * The tags we use, read from the beginning of a picture by ExifReader. A file that it cannot read gives no tags:
 * it is copied all the same. Rationals keep both numbers; dates stay text, so that no time zone is put in.
 */
export function readTags(head: Buffer): RawTags {
  let tags: Record<string, Tag>;
  try {
    tags = ExifReader.load(
      head.buffer.slice(head.byteOffset, head.byteOffset + head.byteLength) as ArrayBuffer,
      {
        expanded: false,
      },
    ) as unknown as Record<string, Tag>;
  } catch {
    return {};
  }
  return {
    make: text(tags.Make),
    model: text(tags.Model),
    serial: text(tags.BodySerialNumber) ?? text(tags.CameraSerialNumber),
    lens: text(tags.LensModel),
    dateTimeOriginal: text(tags.DateTimeOriginal),
    subSec: text(tags.SubSecTimeOriginal),
    offset: text(tags.OffsetTimeOriginal),
    exposureTime: pair(tags.ExposureTime),
    fNumber: pair(tags.FNumber),
    iso: number(tags.ISOSpeedRatings) ?? number(tags.PhotographicSensitivity),
    focalLength: pair(tags.FocalLength),
    exposureBias: pair(tags.ExposureBiasValue),
    subjectDistance: pair(tags.SubjectDistance) ?? written(tags.ApproximateFocusDistance),
    width: number(tags.PixelXDimension) ?? number(tags['Image Width']) ?? number(tags.ImageWidth),
    height: number(tags.PixelYDimension) ?? number(tags['Image Height']) ?? number(tags.ImageLength),
    orientation: number(tags.Orientation),
    artist: text(tags.Artist),
    copyright: text(tags.Copyright),
    imageDescription: text(tags.ImageDescription),
    // XMP writes numbers as text.
    rating: number(tags.Rating) ?? (text(tags.Rating) === undefined ? undefined : Number(text(tags.Rating))),
    label: text(tags.Label),
  };
}

function text(tag: Tag): string | undefined {
  const value = tag?.value;
  if (typeof value === 'string') return value;
  return Array.isArray(value) && typeof value[0] === 'string' ? value[0] : undefined;
}

function number(tag: Tag): number | undefined {
  const value: unknown = Array.isArray(tag?.value) ? tag.value[0] : tag?.value;
  return typeof value === 'number' ? value : undefined;
}

/** A rational as XMP writes it: `145/100`. */
function written(tag: Tag): [number, number] | undefined {
  const found = /^(\d+)\/(\d+)$/.exec(text(tag) ?? '');
  return found ? [Number(found[1]), Number(found[2])] : undefined;
}

function pair(tag: Tag): [number, number] | undefined {
  const value = tag?.value;
  if (!Array.isArray(value) || value.length !== 2) return undefined;
  const [over, under] = value as unknown[];
  return typeof over === 'number' && typeof under === 'number' ? [over, under] : undefined;
}
