import { BadRequestException, createParamDecorator, type ExecutionContext } from '@nestjs/common';
import type { Request } from 'express';
import { MARK_KIND, STUDIO, type MarkKind, type MarkOperation, type MarkValue } from '@arkiv/core';

/** What a window sends. */
export interface SentMarks {
  operations: MarkOperation[];
  /** id of the archive that the marks belong to; undefined: whichever this is */
  archive: string | undefined;
}

/** A selection of ten thousand frames goes out in parts of this size. */
const MOST_OPERATIONS = 2000;

/** A mark was made between 2000 and 2200: a clock further off is no clock, and later years have no date text in XMP. */
const EARLIEST = Date.UTC(2000, 0);
const LATEST = Date.UTC(2200, 0);
/** Characters of an id. */
const ID = 26;
/** Characters of what names a group, a pass, a window: an id, or what an older version wrote. */
const NAME = 40;

type Fault = string | null;
type Rule = (value: unknown) => Fault;

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;
const isText = (value: unknown, from: number, to: number): boolean =>
  typeof value === 'string' && value.length >= from && value.length <= to;
const id: Rule = (value) => (isText(value, ID, ID) ? null : `must be an id of ${ID} characters`);
const name: Rule = (value) => (isText(value, 1, NAME) ? null : `must be a text of 1 to ${NAME} characters`);
const perhaps =
  (rule: Rule): Rule =>
  (value) =>
    value === undefined || value === null ? null : rule(value);
/** Which value a kind can have is checked by core. */
const any: Rule = () => null;

/** Kinds that were seen to be right: a selection of thousands is given the same few. A kind is at most a keyword long. */
const seen = new Set<string>();
const MOST_SEEN = 1000;

function kind(value: unknown): Fault {
  if (typeof value !== 'string') return 'must be a text';
  if (seen.has(value)) return null;
  if (!MARK_KIND.test(value)) return `must match ${MARK_KIND.source}`;
  if (seen.size >= MOST_SEEN) seen.clear();
  seen.add(value);
  return null;
}

const at: Rule = (value) =>
  Number.isInteger(value) && (value as number) >= EARLIEST && (value as number) <= LATEST
    ? null
    : `must be whole milliseconds from ${EARLIEST} to ${LATEST}`;
const by: Rule = (value) =>
  value === undefined || value === STUDIO ? null : 'what comes from a window is the studio’s';

const RULES: ReadonlyMap<string, Rule> = new Map<string, Rule>([
  ...([
    ['id', id],
    ['kind', kind],
    ['subject', id],
    ['from', any],
    ['to', any],
    ['at', at],
  ] as const),
  ...([
    ['by', by],
    ['group', name],
    ['pass', perhaps(name)],
    ['window', name],
  ] as const),
  ['undoes', perhaps(name)],
]);

/** What is wrong with what a window sent, named with the number of the first operation that it is in; null: nothing. */
export function faultOfSent(body: unknown): Fault {
  if (!isObject(body)) return 'marks are sent as an object';
  for (const field of Object.keys(body))
    if (field !== 'operations' && field !== 'archive') return `${field} is nothing that is sent with marks`;
  const archive = perhaps(id)(body.archive);
  if (archive !== null) return `archive ${archive}`;
  const { operations } = body;
  if (!Array.isArray(operations)) return 'operations must be a list';
  if (operations.length > MOST_OPERATIONS) return `operations must be ${MOST_OPERATIONS} at most`;
  for (const [i, operation] of operations.entries()) {
    const fault = faultOfOne(operation);
    if (fault !== null) return `operations.${i}${fault}`;
  }
  return null;
}

function faultOfOne(operation: unknown): Fault {
  if (!isObject(operation)) return ' must be an operation';
  for (const [field, rule] of RULES) {
    const fault = rule(operation[field]);
    if (fault !== null) return `.${field} ${fault}`;
  }
  for (const field of Object.keys(operation))
    if (!RULES.has(field)) return `.${field} is nothing that an operation has`;
  return null;
}

/** Each made of the same fields in the same order: what comes out of JSON may have any. */
const operationOf = (sent: Record<string, unknown>): MarkOperation => ({
  id: sent.id as string,
  kind: sent.kind as MarkKind,
  subject: sent.subject as string,
  from: sent.from as MarkValue,
  to: sent.to as MarkValue,
  at: sent.at as number,
  by: STUDIO,
  group: sent.group as string,
  pass: (sent.pass as string | undefined) ?? null,
  window: sent.window as string,
  undoes: (sent.undoes as string | undefined) ?? null,
});

/**
 * The body of a request that sends marks, checked here as a whole. The mapper and its checks, which copy and look at each field of each
 * operation by itself, took more than half of the time of a request of two thousand.
 */
export const Sent = createParamDecorator((_: unknown, context: ExecutionContext): SentMarks => {
  const body: unknown = context.switchToHttp().getRequest<Request>().body;
  const fault = faultOfSent(body);
  if (fault !== null) throw new BadRequestException([fault]);
  const { operations, archive } = body as { operations: Record<string, unknown>[]; archive?: string };
  return { operations: operations.map(operationOf), archive: archive ?? undefined };
});
