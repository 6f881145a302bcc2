import { ArkivError } from '../errors/catalogue';

/** What the first line of a record says. */
export interface RecordHead {
  /** the archive that wrote it */
  archive: { id: string; name: string };
  /** the shoot it is of; null: of the archive as a whole */
  shoot: string | null;
  /** which part of what is recorded of that, as `frames-12`; a file holds one */
  part: string;
  /** when it was written, milliseconds since 1970 UTC: of two of one part the later one holds */
  at: number;
  /** number of the newest operation of the journal that its frames' marks hold */
  journal: number;
}

/** One row of what the archive keeps, under the name of its table. */
export interface RecordRow {
  is: string;
  row: Record<string, unknown>;
}

export interface ArchiveRecord {
  head: RecordHead;
  rows: RecordRow[];
}

export const RECORD_FORMAT = 'arkiv-record';
const SCHEMA = 1;

/**
 * A record as text: JSON, a value a line. What it is, its rows, and how many they are, by which a text that was cut off is known.
 */
export function recordText(head: RecordHead, rows: Iterable<RecordRow>): string {
  const lines = [JSON.stringify({ format: RECORD_FORMAT, schema: SCHEMA, ...head })];
  for (const { is, row } of rows) lines.push(JSON.stringify({ is, ...row }));
  lines.push(JSON.stringify({ rows: lines.length - 1 }));
  return `${lines.join('\n')}\n`;
}

/** What a record is, from its first line alone. Throws `record.malformed`. */
export function recordHead(text: string, file: string): RecordHead {
  const end = text.indexOf('\n');
  const head = objectIn(end < 0 ? text : text.slice(0, end), file, 1);
  if (head.format !== RECORD_FORMAT) throw malformed(file, 'it is no record of an archive');
  if (head.schema !== SCHEMA)
    throw malformed(file, `it is of schema ${String(head.schema)}, and ${SCHEMA} is known here`);
  const { archive, shoot, part, at, journal } = head as unknown as RecordHead;
  const isWhole =
    typeof archive?.id === 'string' &&
    typeof archive.name === 'string' &&
    (shoot === null || typeof shoot === 'string') &&
    typeof part === 'string' &&
    Number.isFinite(at) &&
    Number.isFinite(journal);
  if (!isWhole) throw malformed(file, 'its first line is not whole');
  return { archive: { id: archive.id, name: archive.name }, shoot, part, at, journal };
}

/** A whole record. Throws `record.malformed`, with the line, where it is cut off or is none. */
export function readRecord(text: string, file: string): ArchiveRecord {
  const head = recordHead(text, file);
  const lines = text.split('\n');
  if (lines.at(-1) === '') lines.pop();
  const rows = lines.slice(1, -1).map((line, i): RecordRow => {
    const { is, ...row } = objectIn(line, file, i + 2);
    if (typeof is !== 'string') throw malformed(file, `line ${i + 2} does not say what it is`);
    return { is, row };
  });
  const end = lines.length > 1 ? objectIn(lines.at(-1)!, file, lines.length) : {};
  if (end.rows !== rows.length) throw malformed(file, 'its end is missing');
  return { head, rows };
}

function objectIn(line: string, file: string, number: number): Record<string, unknown> {
  let value: unknown = null;
  try {
    value = JSON.parse(line);
  } catch {
    // Said below.
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw malformed(file, `line ${number} is no JSON object`);
  return value as Record<string, unknown>;
}

const malformed = (file: string, reason: string): ArkivError =>
  new ArkivError('record.malformed', { file, reason });
