import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { StartedJobDto } from '../jobs/jobs.dto';
import { GalleriesService, type ShownGallery } from './galleries.service';
import { sideOf } from './galleryLook';
import {
  AddGalleryLinkDto,
  ChangeGalleryDto,
  changeOf,
  ChoosingGalleryDto,
  ClientRemarkDto,
  GalleryDto,
  GalleryMadeDto,
  GalleryPlaceDto,
  linkOf,
  MakeGalleryDto,
  requestOf,
} from './gallery.dto';
import { OutsideListener } from '../outside/outsideListener';

@ApiTags('gallery')
@Controller('api')
export class GalleryController {
  constructor(
    private readonly galleries: GalleriesService,
    private readonly listener: OutsideListener,
  ) {}

  /** Where galleries are served. */
  @Get('gallery-place')
  @ApiOkResponse({ type: GalleryPlaceDto })
  place(): GalleryPlaceDto {
    return this.listener.place();
  }

  @Get('shoots/:id/galleries')
  @ApiOkResponse({ type: [GalleryDto] })
  async list(@Param('id') id: string): Promise<GalleryDto[]> {
    const { address } = this.listener.place();
    return (await this.galleries.list(id)).map((gallery) => dtoOf(gallery, address));
  }

  @Post('shoots/:id/galleries')
  @ApiCreatedResponse({ type: GalleryMadeDto })
  make(@Param('id') id: string, @Body() body: MakeGalleryDto): Promise<GalleryMadeDto> {
    return this.galleries.make(id, requestOf(body));
  }

  /** Galleries in which clients choose, those that close first before others. */
  @Get('galleries/choosing')
  @ApiOkResponse({ type: [ChoosingGalleryDto] })
  choosing(): Promise<ChoosingGalleryDto[]> {
    return this.galleries.choosing();
  }

  /** What clients said of frames of a shoot. */
  @Get('shoots/:id/client-remarks')
  @ApiOkResponse({ type: [ClientRemarkDto] })
  remarks(@Param('id') id: string): Promise<ClientRemarkDto[]> {
    return this.galleries.remarks(id);
  }

  @Patch('galleries/:id')
  @HttpCode(204)
  @ApiNoContentResponse()
  change(@Param('id') id: string, @Body() body: ChangeGalleryDto): Promise<void> {
    return this.galleries.change(id, changeOf(body));
  }

  /** Shows what is there now. */
  @Post('galleries/:id/again')
  @ApiCreatedResponse({ type: StartedJobDto })
  again(@Param('id') id: string): Promise<StartedJobDto> {
    return this.galleries.again(id);
  }

  /** Nobody outside sees it any more; what was said there stays. */
  @Post('galleries/:id/close')
  @HttpCode(204)
  @ApiNoContentResponse()
  close(@Param('id') id: string): Promise<void> {
    return this.galleries.close(id);
  }

  @Post('galleries/:id/reopen')
  @ApiCreatedResponse({ type: StartedJobDto })
  reopen(@Param('id') id: string): Promise<StartedJobDto> {
    return this.galleries.reopen(id);
  }

  /** An address of its own for one person. */
  @Post('galleries/:id/links')
  @HttpCode(204)
  @ApiNoContentResponse()
  async addLink(@Param('id') id: string, @Body() body: AddGalleryLinkDto): Promise<void> {
    await this.galleries.addLink(id, linkOf(body));
  }

  /** An address that opens nothing any more. */
  @Delete('gallery-links/:id')
  @HttpCode(204)
  @ApiNoContentResponse()
  revoke(@Param('id') id: string): Promise<void> {
    return this.galleries.revoke(id);
  }
}

function dtoOf(gallery: ShownGallery, place: string): GalleryDto {
  const { look, frames, links, guests, choice, by, ...its } = gallery;
  const byId = new Map(frames.map((frame) => [frame.frameId, frame]));
  const called = (id: string) => guests.find((guest) => guest.id === id)?.name ?? '';
  const of = (frameId: string) => ({
    ...{ frameId, name: byId.get(frameId)?.name ?? '', picture: byId.get(frameId)?.picture ?? null },
  });
  const remarks = [...choice.remarks].flatMap(([frameId, said]) => said.map((one) => ({ ...one, frameId })));
  return {
    ...{ ...its, side: sideOf(look), watermark: look.watermark?.text ?? '' },
    ...{ frames: frames.length, made: frames.filter(({ version }) => version > 0).length },
    links: links.map(({ id, name, email, rights, token, code, revokedAt }) => ({
      ...{ id, name, email, rights, address: token && `${place}/g/${token}`, code, revokedAt },
    })),
    guests: guests.map(({ id, linkId, name, at }) => ({
      ...{ id, linkId, name, favourites: 0, chosen: 0, remarks: 0, taken: 0 },
      ...{ ...by.get(id), openedAt: by.get(id)?.openedAt ?? at },
    })),
    chosen: [...choice.chosen].map(([frameId, { guestId, at }]) => ({
      ...of(frameId),
      by: called(guestId),
      at,
    })),
    remarks: remarks
      .sort((a, b) => a.at - b.at || a.id - b.id)
      .map(({ id, frameId, text, x, y, guestId, at }) => ({
        ...{ ...of(frameId), id, text, x, y, by: called(guestId), at },
      })),
    sent: choice.sent && { by: called(choice.sent.guestId), at: choice.sent.at },
  };
}
