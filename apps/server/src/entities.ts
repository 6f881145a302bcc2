import { Password, Session } from './access/access.entity';
import { Adopted, AdoptedShoot } from './adopted/adopted.entity';
import { Bin, BinnedCopy, BinnedFile, BinnedFrameRow } from './bin/binned.entity';
import { Feature } from './features/feature.entity';
import { PictureHash } from './features/pictureHash.entity';
import { Asset } from './frames/asset.entity';
import { Copy } from './frames/copy.entity';
import { Damage } from './frames/damage.entity';
import { Frame } from './frames/frame.entity';
import { FrameText } from './frames/frameText.entity';
import { OwnText } from './frames/ownText.entity';
import { TextDue } from './frames/textDue.entity';
import { Trail } from './frames/trail.entity';
import { Job, JobItem, JobSubject } from './jobs/job.entity';
import { JournalEntry } from './journal/operation.entity';
import { Arrival, ArrivalFile } from './ledger/arrival.entity';
import { Destination } from './destinations/destination.entity';
import { Message } from './ledger/message.entity';
import { MailAccount } from './messages/mailAccount.entity';
import { Delivery, DeliveryFile } from './ledger/delivery.entity';
import {
  Gallery,
  GalleryBrowser,
  GalleryFrame,
  GalleryGuest,
  GalleryLink,
  GallerySaid,
} from './ledger/gallery.entity';
import { Sent, SentFile } from './ledger/sent.entity';
import { Handed, Handoff, HandoffFile } from './ledger/handoff.entity';
import { AlbumRow } from './marks/album.entity';
import { Pile } from './marks/pile.entity';
import { Pass } from './passes/pass.entity';
import { PassPart } from './passes/passPart.entity';
import { Returned, ReturnedOriginal, ReturnFolder } from './returns/returned.entity';
import { FolderReader, ReaderDevice } from './readers/reader.entity';
import { Setting } from './settings/setting.entity';
import { Shoot } from './shoots/shoot.entity';
import { ShootRosters, TermRow, VocabularyChange } from './vocabulary/term.entity';
import { WatchRule } from './watch/watchRule.entity';
import { Volume } from './volumes/volume.entity';
import { UploadLink } from './uploads/uploadLink.entity';

/** The classes of all tables; each belongs to one room, whose store alone writes it. */
export const ENTITIES = [
  Volume,
  FolderReader,
  ReaderDevice,
  WatchRule,
  Adopted,
  AdoptedShoot,
  Shoot,
  Frame,
  FrameText,
  Asset,
  Copy,
  Damage,
  Trail,
  Feature,
  PictureHash,
  OwnText,
  TextDue,
  JournalEntry,
  Pile,
  AlbumRow,
  Pass,
  PassPart,
  TermRow,
  ShootRosters,
  VocabularyChange,
  Bin,
  BinnedFrameRow,
  BinnedFile,
  BinnedCopy,
  Arrival,
  ArrivalFile,
  Handoff,
  HandoffFile,
  Handed,
  Delivery,
  DeliveryFile,
  Destination,
  MailAccount,
  Message,
  Sent,
  SentFile,
  Gallery,
  GalleryLink,
  GalleryFrame,
  GalleryGuest,
  GalleryBrowser,
  GallerySaid,
  UploadLink,
  Returned,
  ReturnedOriginal,
  ReturnFolder,
  Job,
  JobItem,
  JobSubject,
  Setting,
  Password,
  Session,
];
