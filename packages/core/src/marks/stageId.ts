/** An id of a stage: small letters, digits and hyphens. */
export const isStageId = (value: unknown): value is string =>
  typeof value === 'string' && /^[a-z0-9][a-z0-9-]{0,39}$/.test(value);
