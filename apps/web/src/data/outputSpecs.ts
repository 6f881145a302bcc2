import { DEFAULT_OUTPUT_SPECS, type OutputSpec } from '@arkiv/core';
import { useSettings } from './live';
import { changeSettings } from './settings';
import type { Api } from './http';

/** The studio's output specs, in their order. */
export function useOutputSpecs(): readonly OutputSpec[] {
  const { data } = useSettings();
  return (data?.outputSpecs as readonly OutputSpec[] | undefined) ?? DEFAULT_OUTPUT_SPECS;
}

/** Keeps one spec in the place of another, or, without one, behind all others; undefined: it goes. */
export function keepSpec(before: string | null, spec: OutputSpec | null): Promise<unknown> {
  return changeSettings(({ outputSpecs }) => {
    const specs = outputSpecs as OutputSpec[];
    const next =
      before === null
        ? [...specs, spec!]
        : specs.flatMap((one) => (one.name !== before ? one : (spec ?? [])));
    return { outputSpecs: next as Api['OutputSpecDto'][] };
  });
}
