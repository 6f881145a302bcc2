import { EMPTY_SIDECAR, type SidecarModel } from '../xmp/sidecar';

/** What several places say of one frame, the one that counts first: each field by the first of them that says anything of it. */
export function firstSaid(models: readonly Partial<SidecarModel>[]): SidecarModel {
  const said = { ...EMPTY_SIDECAR };
  for (const model of [...models].reverse())
    for (const field of Object.keys(EMPTY_SIDECAR) as (keyof SidecarModel)[]) {
      const value = model[field];
      if (value !== undefined && !isEmpty(field, value)) Object.assign(said, { [field]: value });
    }
  return said;
}

function isEmpty(field: keyof SidecarModel, value: SidecarModel[keyof SidecarModel]): boolean {
  if (Array.isArray(value)) return value.length === 0;
  return value === EMPTY_SIDECAR[field] || value === '';
}
