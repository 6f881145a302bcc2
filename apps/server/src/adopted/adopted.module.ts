import { Module } from '@nestjs/common';
import { BinModule } from '../bin/bin.module';
import { CopiesModule } from '../copies/copies.module';
import { FramesModule } from '../frames/frames.module';
import { JobsModule } from '../jobs/jobs.module';
import { MarksModule } from '../marks/marks.module';
import { MetadataModule } from '../metadata/metadata.module';
import { MountsModule } from '../mounts/mounts.module';
import { MovesModule } from '../moves/moves.module';
import { ShootsModule } from '../shoots/shoots.module';
import { VolumesModule } from '../volumes/volumes.module';
import { AdoptedAlbums } from './adoptedAlbums.service';
import { AdoptedController } from './adopted.controller';
import { AdoptedFrames } from './adoptedFrames.service';
import { AdoptedService } from './adopted.service';
import { AdoptedStore } from './adoptedStore';
import { AdoptedTree } from './adoptedTree';
import { AdoptPlaces } from './adoptPlaces.service';
import { AdoptHandler } from './adopt.handler';
import { FollowMoves } from './followMoves.service';
import { SaidBeside } from './saidBeside.service';

@Module({
  imports: [
    BinModule,
    CopiesModule,
    FramesModule,
    JobsModule,
    MarksModule,
    MetadataModule,
    MountsModule,
    MovesModule,
    ShootsModule,
    VolumesModule,
  ],
  controllers: [AdoptedController],
  providers: [
    AdoptedStore,
    AdoptedTree,
    AdoptPlaces,
    SaidBeside,
    AdoptedAlbums,
    FollowMoves,
    AdoptedFrames,
    AdoptHandler,
    AdoptedService,
  ],
})
export class AdoptedModule {}
