import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { MailAccounts } from './mailAccounts.service';
import {
  MadePictureDto,
  MailAccountDto,
  MailAccountWishDto,
  MakePicturesDto,
  MessageDto,
  WritePicturesDto,
  WriteToGalleryDto,
} from './messages.dto';
import { MessagesService } from './messages.service';

/** What is shown where no server is named: the usual way in. */
const NO_ACCOUNT: MailAccountDto = {
  ...{ host: '', port: 465, security: 'tls', user: '', from: '', opens: false },
};

@ApiTags('messages')
@Controller('api')
export class MessagesController {
  constructor(
    private readonly accounts: MailAccounts,
    private readonly messages: MessagesService,
  ) {}

  /** The studio's mail server, without what opens it. */
  @Get('mail-account')
  @ApiOkResponse({ type: MailAccountDto })
  async account(): Promise<MailAccountDto> {
    const account = await this.accounts.find();
    if (!account) return NO_ACCOUNT;
    const { id: _, secret, ...its } = account;
    return { ...its, opens: secret !== null };
  }

  @Put('mail-account')
  @HttpCode(204)
  @ApiNoContentResponse()
  keep(@Body() body: MailAccountWishDto): Promise<void> {
    return this.accounts.keep(body);
  }

  @Delete('mail-account')
  @HttpCode(204)
  @ApiNoContentResponse()
  forget(): Promise<void> {
    return this.accounts.forget();
  }

  /** Whether it lets us in. Nothing is sent. */
  @Post('mail-account/check')
  @HttpCode(204)
  @ApiNoContentResponse()
  check(): Promise<void> {
    return this.accounts.check();
  }

  /** What clients of a shoot were written, the newest first. */
  @Get('shoots/:id/messages')
  @ApiOkResponse({ type: [MessageDto] })
  list(@Param('id') id: string): Promise<MessageDto[]> {
    return this.messages.list(id);
  }

  /** Sends what somebody has seen, one message for each link. */
  @Post('galleries/:id/messages')
  @HttpCode(204)
  @ApiNoContentResponse()
  ofGallery(@Param('id') id: string, @Body() { kind, messages }: WriteToGalleryDto): Promise<void> {
    return this.messages.ofGallery(id, kind, messages);
  }

  /** How large pictures would be beside a message. */
  @Post('shoots/:id/picture-messages/made')
  @ApiCreatedResponse({ type: [MadePictureDto] })
  async made(
    @Param('id') id: string,
    @Body() { frameIds, spec }: MakePicturesDto,
  ): Promise<MadePictureDto[]> {
    const { files } = await this.messages.make(id, frameIds, spec);
    return files.map(({ frameId, name, bytes }) => ({ frameId, name, bytes: bytes.length }));
  }

  /** Sends pictures beside words. */
  @Post('shoots/:id/picture-messages')
  @HttpCode(204)
  @ApiNoContentResponse()
  withPictures(
    @Param('id') id: string,
    @Body() { message, frameIds, spec }: WritePicturesDto,
  ): Promise<void> {
    return this.messages.withPictures(id, message, frameIds, spec);
  }
}
