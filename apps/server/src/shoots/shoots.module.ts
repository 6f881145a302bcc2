import { Module } from '@nestjs/common';
import { FramesModule } from '../frames/frames.module';
import { ShootsController } from './shoots.controller';
import { ShootsService } from './shoots.service';

@Module({
  imports: [FramesModule],
  controllers: [ShootsController],
  providers: [ShootsService],
  exports: [ShootsService],
})
export class ShootsModule {}
