import { ArchivesModule } from './archives/archives.module';
import { Module, type DynamicModule } from '@nestjs/common';
import { AdoptedModule } from './adopted/adopted.module';
import { AccessModule } from './access/access.module';
import { AlbumsModule } from './albums/albums.module';
import { BinModule } from './bin/bin.module';
import { ArkivConfig } from './config/config';
import { CopiesModule } from './copies/copies.module';
import { DbModule } from './db/db.module';
import { DestinationsModule } from './destinations/destinations.module';
import { DeliveryModule } from './delivery/delivery.module';
import { FeaturesModule } from './features/features.module';
import { DiskModule } from './disk/disk.module';
import { ENTITIES } from './entities';
import { EventsModule } from './events/events.module';
import { FindModule } from './find/find.module';
import { GalleryModule } from './gallery/gallery.module';
import { MessagesModule } from './messages/messages.module';
import { HandoffModule } from './handoff/handoff.module';
import { RebuildModule } from './rebuild/rebuild.module';
import { RecordModule } from './record/record.module';
import { ReturnsModule } from './returns/returns.module';
import { IntakeModule } from './intake/intake.module';
import { JobsModule } from './jobs/jobs.module';
import { MachineModule } from './machine/machine.module';
import { MarksModule } from './marks/marks.module';
import { MountsModule } from './mounts/mounts.module';
import { OpeningModule } from './opening/opening.module';
import { MovesModule } from './moves/moves.module';
import { PassesModule } from './passes/passes.module';
import { UploadsModule } from './uploads/uploads.module';
import { VocabularyModule } from './vocabulary/vocabulary.module';
import { PilesModule } from './piles/piles.module';
import { ReadersModule } from './readers/readers.module';
import { SpaceModule } from './space/space.module';
import { ShootsModule } from './shoots/shoots.module';
import { SidecarsModule } from './sidecars/sidecars.module';
import { StandInDiskModule } from './standins/standInDisk.module';
import { StandInsModule } from './standins/standins.module';
import { CarriedModule } from './carried/carried.module';
import { SettingsModule } from './settings/settings.module';
import { SystemModule } from './system/system.module';
import { DuplicatesModule } from './duplicates/duplicates.module';
import { TakesModule } from './takes/takes.module';
import { WatchModule } from './watch/watch.module';
import { VolumesModule } from './volumes/volumes.module';

@Module({})
export class AppModule {
  static with(config: ArkivConfig): DynamicModule {
    return {
      module: AppModule,
      imports: [
        {
          module: ConfigModule,
          global: true,
          providers: [{ provide: ArkivConfig, useValue: config }],
          exports: [ArkivConfig],
        },
        config.standIns ? StandInDiskModule : DiskModule,
        SystemModule,
        EventsModule,
        DbModule.with(ENTITIES),
        SettingsModule,
        AccessModule,
        MachineModule,
        JobsModule,
        MountsModule,
        VolumesModule,
        ReadersModule,
        ShootsModule,
        MarksModule,
        AlbumsModule,
        OpeningModule,
        ArchivesModule,
        SpaceModule,
        PilesModule,
        PassesModule,
        VocabularyModule,
        SidecarsModule,
        IntakeModule,
        UploadsModule,
        WatchModule,
        AdoptedModule,
        CopiesModule,
        MovesModule,
        BinModule,
        HandoffModule,
        ReturnsModule,
        DeliveryModule,
        DestinationsModule,
        GalleryModule,
        MessagesModule,
        RecordModule,
        RebuildModule,
        CarriedModule,
        FeaturesModule,
        DuplicatesModule,
        FindModule,
        TakesModule,
        ...(config.standIns ? [StandInsModule] : []),
      ],
    };
  }
}

@Module({})
class ConfigModule {}
