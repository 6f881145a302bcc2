import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import {
  AdoptAskedDto,
  AdoptedDto,
  AdoptExampleDto,
  AdoptWishDto,
  ChangeAdoptedDto,
  ForgottenDto,
  TakeInDto,
  TakenInDto,
} from './adopted.dto';
import { AdoptPlaces } from './adoptPlaces.service';
import { AdoptedService } from './adopted.service';

/** Folders whose pictures are in the archive where they lie. */
@ApiTags('adopted')
@Controller('api/adopted')
export class AdoptedController {
  constructor(
    private readonly adopted: AdoptedService,
    private readonly places: AdoptPlaces,
  ) {}

  @Get()
  @ApiOkResponse({ type: [AdoptedDto] })
  async list(): Promise<AdoptedDto[]> {
    return (await this.adopted.list()).map((one) => AdoptedDto.of(one));
  }

  /** What a folder would become. Nothing is changed. */
  @Post('example')
  @HttpCode(200)
  @ApiOkResponse({ type: AdoptExampleDto })
  example(@Body() asked: AdoptAskedDto): Promise<AdoptExampleDto> {
    return this.places.example(asked.path, asked.rule);
  }

  /** Adopts a folder: its first frames are there when this answers, the rest follows. */
  @Post()
  @ApiCreatedResponse({ type: AdoptedDto })
  async adopt(@Body() wish: AdoptWishDto): Promise<AdoptedDto> {
    return AdoptedDto.of(await this.adopted.adopt(wish));
  }

  /** Whether sidecars may be written beside its pictures. */
  @Put(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  change(@Param('id') id: string, @Body() change: ChangeAdoptedDto): Promise<void> {
    return this.adopted.change(id, change);
  }

  /** Looks at the tree now, and tries once more what could not be read. */
  @Post(':id/again')
  @HttpCode(204)
  @ApiNoContentResponse()
  again(@Param('id') id: string): Promise<void> {
    return this.adopted.again(id);
  }

  /** Its shoots go into the archive's dated folders, each by a job that can be undone. */
  @Post(':id/take-in')
  @HttpCode(200)
  @ApiOkResponse({ type: TakenInDto })
  takeIn(@Param('id') id: string, @Body() naming: TakeInDto): Promise<TakenInDto> {
    return this.adopted.takeIn(id, naming);
  }

  /** Its frames leave the archive. The files stay as they are. */
  @Post(':id/forget')
  @HttpCode(200)
  @ApiOkResponse({ type: ForgottenDto })
  forget(@Param('id') id: string): Promise<ForgottenDto> {
    return this.adopted.forget(id);
  }
}
