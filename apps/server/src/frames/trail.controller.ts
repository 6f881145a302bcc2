import { Controller, Get, Query } from '@nestjs/common';
import { ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { LongReading } from '../db/longReading';
import { TrailAskedDto, TrailLineDto, TrailPageDto } from './trail.dto';

/** Lines in one answer: some screens full. */
const PAGE = 100;

/** What became of files, as a person reads it. */
@ApiTags('trail')
@Controller('api/trail')
export class TrailController {
  constructor(private readonly long: LongReading) {}

  @Get()
  @ApiOkResponse({ type: TrailPageDto })
  async read(@Query() { shoot, frame, day, find, before }: TrailAskedDto): Promise<TrailPageDto> {
    const where = ['TRUE'];
    const parameters: (string | number)[] = [];
    const only = (condition: string, ...values: (string | number)[]): void => {
      where.push(condition);
      parameters.push(...values);
    };
    if (shoot !== undefined) only('t."shootId" = ?', shoot);
    if (frame !== undefined) only('t."frameId" = ?', frame);
    if (before !== undefined) only('t.seq < ?', before);
    if (day !== undefined) {
      const from = new Date(`${day}T00:00:00`);
      const to = new Date(from);
      to.setDate(to.getDate() + 1);
      only('t.at >= ? AND t.at < ?', from.getTime(), to.getTime());
    }
    for (const word of find?.trim().split(/\s+/).filter(Boolean) ?? [])
      only(`instr(lower(${SAID}), lower(?)) > 0`, word);
    const rows = await this.long.rows<TrailLineDto>(
      `SELECT t.seq, t.at, t.kind, t."shootId", COALESCE(s.title, '') AS shoot, t."frameId", v.name AS drive, t."from", t."to", t.reason
       FROM trail t LEFT JOIN shoot s ON s.id = t."shootId" LEFT JOIN volume v ON v.id = t."volumeId"
       WHERE ${where.join(' AND ')} ORDER BY t.seq DESC LIMIT ${PAGE + 1}`,
      parameters,
    );
    return { lines: rows.slice(0, PAGE), more: rows.length > PAGE };
  }
}

/** All that a line says, in SQL. */
const SAID = `COALESCE(t."from", '') || ' ' || COALESCE(t."to", '') || ' ' || COALESCE(s.title, '') || ' ' || COALESCE(v.name, '') || ' ' || COALESCE(t.reason, '')`;
