import {
  bodyKey,
  frameKind,
  instantMillis,
  type FrameFacts,
  type FileKind,
  type MetadataTemplate,
} from '@arkiv/core';
import { labelFor } from '../settings/labelFor';
import type { StudioSettings } from '../settings/settings.service';
import type { NewFrame, NewPlace } from './frameStore';

/** A frame as it begins, from the facts of its files: nothing is said of it yet. `zoneMinutes`: of a camera that names no offset. */
export function newFrame(
  { id, shootId, name, folder, place }: NewPlace & { id: string },
  { base, files, facts }: { base: string; files: readonly FileKind[]; facts: FrameFacts },
  zoneMinutes: number,
): NewFrame {
  const { role, format, raw } = frameKind(files);
  const { capture } = facts;
  // One literal: put together of parts it takes ten times as long, and a folder has thousands.
  return {
    id,
    shootId,
    name,
    original: base,
    folder,
    place,
    verdict: 'undecided',
    stars: 0,
    label: null,
    note: null,
    stage: null,
    take: null,
    instant: capture ? instantMillis(capture, zoneMinutes) : null,
    local: capture?.local ?? null,
    millis: capture?.millis ?? 0,
    offsetMinutes: capture?.offsetMinutes ?? null,
    correctionMillis: capture?.correctionMillis ?? 0,
    body: bodyKey(facts) || null,
    serial: facts.serial,
    lens: facts.lens,
    aperture: facts.aperture?.value ?? null,
    exposure: facts.exposure?.value ?? null,
    iso: facts.iso,
    focalLength: facts.focalLength,
    exposureBias: facts.exposureBias,
    focus: facts.focus,
    width: facts.width,
    height: facts.height,
    orientation: facts.orientation,
    seconds: facts.seconds,
    role,
    format,
    raw,
    piles: '',
    albums: '',
    caption: null,
    keywords: '',
    persons: '',
    texts: '',
    finish: '',
    markedAt: 0,
  };
}

/** The marks a frame begins with: those that were given in the camera or before, else the template's. */
export function marksFrom(
  { rating, label }: Pick<FrameFacts, 'rating' | 'label'>,
  template: Partial<Pick<MetadataTemplate, 'stars' | 'label'>> | null,
  settings: Pick<StudioSettings, 'labels' | 'labelAlso'>,
): Pick<NewFrame, 'verdict' | 'stars' | 'label'> {
  return {
    verdict: rating === -1 ? 'reject' : 'undecided',
    stars: rating !== null && rating > 0 ? rating : (template?.stars ?? 0),
    label: (label === null ? null : labelFor(label, settings)) ?? template?.label ?? null,
  };
}
