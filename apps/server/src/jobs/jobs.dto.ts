import { ApiProperty } from '@nestjs/swagger';
import { JOB_DEEDS, type JobDeed, type JobKind, type JobState } from './job.entity';

const KINDS = [
  'intake',
  'handoff',
  'delivery',
  'copy',
  'verify',
  'clear',
  'move',
  'bin',
  'release',
  'derive',
  'take-back',
  'return',
  'send',
  'gallery',
  'rebuild',
  'carry',
  'adopt',
] as const;
const STATES = ['queued', 'running', 'paused', 'waiting', 'done', 'failed', 'cancelled'] as const;

export class JobDto {
  @ApiProperty() id: string;
  @ApiProperty({ enum: KINDS }) kind: JobKind;
  @ApiProperty({ type: String, enum: JOB_DEEDS, nullable: true }) deed: JobDeed | null;
  @ApiProperty() title: string;
  @ApiProperty({ type: String, nullable: true }) shootId: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'the shoot that frames leave' })
  fromShootId: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'the reader that an intake copies from' })
  readerId: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'what the card is called that it works on' })
  card: string | null;
  @ApiProperty({ enum: STATES }) state: JobState;
  @ApiProperty({ type: String, nullable: true }) reason: string | null;
  @ApiProperty() filesDone: number;
  @ApiProperty() filesFailed: number;
  @ApiProperty() filesTotal: number;
  @ApiProperty({ description: 'bytes' }) bytesDone: number;
  @ApiProperty({ description: 'bytes' }) bytesTotal: number;
  @ApiProperty() createdAt: number;
  @ApiProperty({ type: Number, nullable: true }) startedAt: number | null;
  @ApiProperty({ type: Number, nullable: true }) finishedAt: number | null;
  @ApiProperty({ type: String, nullable: true, description: 'the job that goes first on the same way' })
  behind: string | null;
  @ApiProperty({ type: String, nullable: true, description: 'why the item that failed last did' })
  trouble: string | null;
  @ApiProperty({ description: 'somebody has seen how it ended' }) seen: boolean;
}

export class JobFailureDto {
  @ApiProperty() file: string;
  @ApiProperty() reason: string;
}
export class JobReportDto {
  @ApiProperty({ type: JobDto }) job: JobDto;
  @ApiProperty({ type: [JobFailureDto] }) failures: JobFailureDto[];
}

export class StartedJobDto {
  @ApiProperty() jobId: string;
}
