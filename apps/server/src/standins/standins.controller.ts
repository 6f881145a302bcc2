import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  ChangeDriveDto,
  ChangeServerDto,
  ChangeSlotDto,
  InsertDto,
  StandInMailDto,
  StandInsDto,
} from './standins.dto';
import { StandInsService } from './standins.service';

/** The hand that plays with the simulated devices. Present in demo and tests only. */
@ApiTags('stand-ins')
@Controller('api/stand-ins')
export class StandInsController {
  constructor(private readonly standIns: StandInsService) {}

  @Get()
  @ApiOkResponse({ type: StandInsDto })
  all(): Promise<StandInsDto> {
    return this.standIns.all();
  }

  /** What lies in the simulated mail server's box, the newest first. */
  @Get('mailbox')
  @ApiOkResponse({ type: [StandInMailDto] })
  mailbox(): Promise<StandInMailDto[]> {
    return this.standIns.mailbox();
  }

  @Post('slots/:id/insert')
  @HttpCode(204)
  @ApiNoContentResponse()
  async insert(@Param('id') id: string, @Body() body: InsertDto): Promise<void> {
    await this.standIns.insert(id, body.card);
  }

  /** Out it comes, whatever is going on. */
  @Post('slots/:id/pull')
  @HttpCode(204)
  @ApiNoContentResponse()
  async pull(@Param('id') id: string): Promise<void> {
    await this.standIns.pull(id);
  }

  @Put('slots/:id')
  @ApiOkResponse({ type: StandInsDto })
  changeSlot(@Param('id') id: string, @Body() body: ChangeSlotDto): Promise<StandInsDto> {
    return this.standIns.changeSlot(id, body);
  }

  @Put('servers/:id')
  @ApiOkResponse({ type: StandInsDto })
  changeServer(@Param('id') id: string, @Body() body: ChangeServerDto): Promise<StandInsDto> {
    return this.standIns.changeServer(id, body);
  }

  @Put('drives/:id')
  @ApiOkResponse({ type: StandInsDto })
  changeDrive(@Param('id') id: string, @Body() body: ChangeDriveDto): Promise<StandInsDto> {
    return this.standIns.changeDrive(id, body);
  }
}
