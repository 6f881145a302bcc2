import { factsFromTags, kindOf, matches, type Filter, type NameFacts, type PlanFrame } from '@arkiv/core';
import { useMemo } from 'react';
import { framesOf, type LoadedFrame } from '../../data/frames';
import type { Api } from '../../data/http';
import { useShoots } from '../../data/live';
import { useGet } from '../../data/useGet';

/** The newest shoot of the archive with its frames: what settings show their effect on. Null while there is none. */
export interface Sample {
  shoot: Api['ShootDto'];
  frames: readonly LoadedFrame[];
}

export function useSample(): Sample | null {
  const { data: shoots } = useShoots();
  const shoot = shoots?.find((s) => s.frames > 0);
  const { data } = useGet(shoot ? `/shoots/${shoot.id}/frames` : null);
  return useMemo(() => (shoot && data ? { shoot, frames: framesOf(data) } : null), [shoot, data]);
}

export const countMatching = (sample: Sample, filter: Filter): number =>
  sample.frames.filter((frame) => matches(filter, frame)).length;

/** Most frames a plan is shown for here: the first ones show what there is to see. */
const SHOWN = 200;

/** The sample's frames as they lay on their card, so that a plan can be made of them; two made-up ones without a sample. */
export function planFrames(sample: Sample | null): PlanFrame[] {
  const frames = sample?.frames.slice(0, SHOWN) ?? MADE_UP;
  return frames.map((frame): PlanFrame => {
    const [, model = ''] = (frame.body ?? '').split(' · ');
    return {
      key: frame.id,
      base: frame.original,
      files: frame.format.split('+').map((format) => {
        const path = `DCIM/100OCKHM/${frame.original}.${EXTENSION[format] ?? format.toUpperCase()}`;
        return { path, size: 0, mtimeMillis: 0, ...kindOf(path) };
      }),
      facts: {
        ...factsFromTags({}),
        capture: frame.local
          ? {
              local: frame.local,
              millis: frame.millis,
              offsetMinutes: frame.offsetMinutes,
              correctionMillis: frame.correctionMillis,
            }
          : null,
        model,
        serial: frame.serial,
      },
    };
  });
}

const EXTENSION: Readonly<Record<string, string>> = { jpeg: 'JPG', tiff: 'TIF' };

const madeUp = (n: number): LoadedFrame =>
  ({
    id: String(n),
    original: `OCK_000${n}`,
    format: 'dng+jpeg',
    body: 'Ockham · Ockham Five',
    local: `2031-04-18T19:3${n}:00`,
    millis: 0,
    offsetMinutes: null,
    correctionMillis: 0,
    serial: null,
    lens: null,
  }) as LoadedFrame;
const MADE_UP = [madeUp(1), madeUp(2)];

/** What a metadata template's fields stand for, for the sample's first frame. */
export function sampleWords(sample: Sample | null, creator: string): NameFacts {
  const [frame] = planFrames(sample);
  const { title = 'Harbour regatta', client = '', place = '' } = sample?.shoot ?? {};
  const { capture, model, serial } = frame!.facts;
  const known = { capture, body: model ?? '', serial: serial ?? '', original: frame!.base };
  return { shoot: title, client, place, creator, card: 'OCKHAM', seq: 1, stars: 0, ...known };
}
