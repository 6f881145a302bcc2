import { Password, Session } from '../access/access.entity';
import { Damage } from '../copies/damage.entity';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Frame } from '../frames/frame.entity';
import { OwnText } from '../frames/ownText.entity';
import { Job, JobItem } from '../jobs/job.entity';
import { Mark } from '../marks/mark.entity';
import { SidecarOwed } from '../marks/sidecarOwed.entity';
import { FolderReader, ReaderDevice } from '../readers/reader.entity';
import { Shoot } from '../shoots/shoot.entity';
import { Setting } from '../system/setting.entity';
import { Volume } from '../volumes/volume.entity';

export const ENTITIES = [
  Volume,
  FolderReader,
  ReaderDevice,
  Shoot,
  Frame,
  Asset,
  Copy,
  Damage,
  OwnText,
  Mark,
  SidecarOwed,
  Job,
  JobItem,
  Setting,
  Password,
  Session,
];
