import { Body, Controller, Delete, Get, HttpCode, Post, Put, Req, Res } from '@nestjs/common';
import { ApiOkResponse, ApiProperty, ApiTags } from '@nestjs/swagger';
import { IsOptional, IsString, MaxLength } from 'class-validator';
import type { Request, Response } from 'express';
import { Access, LONGEST_PASSWORD, SESSION_MILLIS } from './access.service';
import { tokenOf } from './session';

/** Far above what a password may have: longer ones are refused in words, not as a malformed request. */
const MOST = LONGEST_PASSWORD * 10;

export class SessionDto {
  @ApiProperty({ description: 'everything asks for the studio password' }) required: boolean;
  @ApiProperty() signedIn: boolean;
}

export class SignInDto {
  @ApiProperty() @IsString() @MaxLength(MOST) password: string;
}

export class SetPasswordDto {
  @ApiProperty() @IsString() @MaxLength(MOST) password: string;
  @ApiProperty({ required: false, description: 'asked for where others can reach the server' })
  @IsOptional()
  @IsString()
  @MaxLength(MOST)
  current?: string;
}

@ApiTags('access')
@Controller('api')
export class AccessController {
  constructor(private readonly access: Access) {}

  @Get('session')
  @ApiOkResponse({ type: SessionDto })
  async session(@Req() request: Request): Promise<SessionDto> {
    const { required } = this.access;
    return {
      required,
      signedIn: !required || (await this.access.isIn(tokenOf(request, this.access.cookie))),
    };
  }

  @Post('session')
  @HttpCode(204)
  async signIn(
    @Body() { password }: SignInDto,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    const token = await this.access.signIn(password, addressOf(request));
    response.cookie(this.access.cookie, token, {
      ...OF_COOKIE,
      secure: request.secure,
      maxAge: SESSION_MILLIS,
    });
  }

  @Delete('session')
  @HttpCode(204)
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    const token = tokenOf(request, this.access.cookie);
    if (token !== null) await this.access.signOut(token);
    response.clearCookie(this.access.cookie, OF_COOKIE);
  }

  @Put('password')
  @HttpCode(204)
  async setPassword(@Body() { password, current }: SetPasswordDto, @Req() request: Request): Promise<void> {
    await this.access.setPassword(password, current ?? null, addressOf(request));
  }
}

/** No script sees it, and no other site's page sends it. */
const OF_COOKIE = { httpOnly: true, sameSite: 'strict', path: '/' } as const;

const addressOf = (request: Request): string => request.socket.remoteAddress ?? '';
