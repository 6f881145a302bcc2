import { Adopted, AdoptedShoot } from '../adopted/adopted.entity';
import { Bin, BinnedCopy, BinnedFile, BinnedFrameRow } from '../bin/binned.entity';
import { Destination } from '../destinations/destination.entity';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Damage } from '../frames/damage.entity';
import { Frame } from '../frames/frame.entity';
import { FrameText } from '../frames/frameText.entity';
import { Trail } from '../frames/trail.entity';
import { Arrival, ArrivalFile } from '../ledger/arrival.entity';
import { Delivery, DeliveryFile } from '../ledger/delivery.entity';
import { Gallery, GalleryFrame, GalleryGuest, GalleryLink, GallerySaid } from '../ledger/gallery.entity';
import { Handed, Handoff, HandoffFile } from '../ledger/handoff.entity';
import { Message } from '../ledger/message.entity';
import { Sent, SentFile } from '../ledger/sent.entity';
import { AlbumRow } from '../marks/album.entity';
import { Pile } from '../marks/pile.entity';
import { MailAccount } from '../messages/mailAccount.entity';
import { Pass } from '../passes/pass.entity';
import { PassPart } from '../passes/passPart.entity';
import { Returned, ReturnedOriginal, ReturnFolder } from '../returns/returned.entity';
import { Setting } from '../settings/setting.entity';
import { Shoot } from '../shoots/shoot.entity';
import { ShootRosters, TermRow, VocabularyChange } from '../vocabulary/term.entity';
import { Volume } from '../volumes/volume.entity';

/** Frames of one part: some four kilobytes each with all that stands beside them, so that a change writes four megabytes at the most. */
export const BLOCK = 1024;

/** Columns of a table that are not what is recorded as it stands. */
interface Columns {
  /** never recorded: made anew, this machine's own, or a secret */
  without?: readonly string[];
  /** recorded, but what changes them makes no record due: the history says it, or it is counted anew */
  quiet?: readonly string[];
}

interface RecordedTable extends Columns {
  // eslint-disable-next-line @typescript-eslint/no-unsafe-function-type
  entity: Function;
  /** which rows a part holds, in SQL; parameters by name: `:shoot` and `:key` */
  where: string;
  /** the part that a row `r` is in, in SQL: `subject` and `shoot`; null: in that of the archive */
  of: ((r: string) => string) | null;
}

export interface RecordedPart {
  /** the archive's own, or one of each shoot */
  of: 'archive' | 'shoot';
  /** in the order in which they can be written anew: what others stand on first */
  tables: RecordedTable[];
}

/** What a part is due as: its kind, its shoot, and which one where a shoot has several. */
export const subjectOf = (kind: string, shoot: string, key: string): string => `${kind}:${shoot}:${key}`;
export function partsOfSubject(subject: string): { kind: string; shoot: string; key: string } {
  const [kind = '', shoot = '', key = ''] = subject.split(':');
  return { kind, shoot, key };
}

/** A part that is there once for a shoot, of rows that name it. */
const ofShoot = (kind: string) => (r: string) =>
  `SELECT '${kind}:' || ${r}."shootId" || ':' AS subject, ${r}."shootId" AS shoot`;
/** A part for each row of a table that names its shoot. */
const ofEach = (kind: string) => (r: string) =>
  `SELECT '${kind}:' || ${r}."shootId" || ':' || ${r}.id AS subject, ${r}."shootId" AS shoot`;
/** The same, of a row that stands below one of these. */
const below = (kind: string, table: string, column: string) => (r: string) =>
  `SELECT '${kind}:' || t."shootId" || ':' || t.id AS subject, t."shootId" AS shoot FROM ${table} t WHERE t.id = ${r}."${column}"`;
const block = (key: string): string => `(${key} / ${BLOCK})`;
const ofFrame = (r: string): string =>
  `SELECT 'frames:' || f."shootId" || ':' || ${block('f.key')} AS subject, f."shootId" AS shoot FROM frame f WHERE f.id = ${r}."frameId"`;
/** Where a file of a frame is recorded with it, others beside their shoot. */
const file = (from: string): string =>
  `SELECT CASE WHEN f.id IS NULL THEN 'loose:' || a."shootId" || ':' ELSE 'frames:' || f."shootId" || ':' || ${block('f.key')} END AS subject,
     COALESCE(f."shootId", a."shootId") AS shoot FROM ${from} LEFT JOIN frame f ON f.id = a."frameId"`;
const ofFile = (r: string): string =>
  file(`(SELECT ${r}."shootId" AS "shootId", ${r}."frameId" AS "frameId") a`);
const ofCopy = (r: string): string => `${file('asset a')} WHERE a.id = ${r}."assetId"`;

const FRAMES = `"shootId" = :shoot AND key >= :key * ${BLOCK} AND key < (:key + 1) * ${BLOCK}`;
const IN_FRAMES = `"frameId" IN (SELECT id FROM frame WHERE ${FRAMES})`;
const LOOSE = `"shootId" = :shoot AND "frameId" IS NULL`;
const MERELY_THE_SHOOTS = `"shootId" = :shoot`;
/** What a part is about: where it went into another shoot, what stands below it went along. */
export const ONE = `id = :key AND "shootId" = :shoot`;
const EVERYTHING = 'TRUE';

/** Marks: the history says what they became; and what the sidecars know of them. */
const MARKS = [
  ...['verdict', 'stars', 'label', 'note', 'stage', 'take', 'piles', 'albums', 'caption', 'keywords'],
  ...['persons', 'texts', 'finish', 'markedAt', 'sidecarDue'],
];
/** Counted anew from the rows. */
const KEPT = {
  shoot: ['frames', 'keepers', 'rejects', 'files', 'missingCopies', 'countedBy', 'leads', 'leadsAt'],
  volume: ['files', 'bytes', 'onlyHere', 'damaged', 'countedAs'],
};
/** Where a drive lies on this machine. */
const FOUND = ['root', 'device', 'disks', 'below', 'heldBy'];

const table = (
  entity: RecordedTable['entity'],
  where: string,
  of: RecordedTable['of'],
  columns: Columns = {},
): RecordedTable => ({ entity, where, of, ...columns });

/** All that is written beside the pictures, so that the database can be made anew from the drives alone. */
export const RECORDED: Readonly<Record<string, RecordedPart>> = {
  archive: {
    of: 'archive',
    tables: [
      table(Setting, `key NOT IN ('welcomed', 'previewGigabytes', 'programs')`, null),
      table(Volume, EVERYTHING, null, { without: [...FOUND, ...KEPT.volume] }),
      table(Destination, EVERYTHING, null, { without: ['secret'] }),
      table(MailAccount, EVERYTHING, null, { without: ['secret'] }),
    ],
  },
  vocabulary: {
    of: 'archive',
    tables: [table(TermRow, EVERYTHING, null), table(VocabularyChange, EVERYTHING, null)],
  },
  sets: { of: 'archive', tables: [table(AlbumRow, EVERYTHING, null), table(Pile, EVERYTHING, null)] },
  adopted: {
    of: 'archive',
    tables: [table(Adopted, EVERYTHING, null), table(AdoptedShoot, EVERYTHING, null)],
  },
  shoot: {
    of: 'shoot',
    tables: [
      table(Shoot, 'id = :shoot', (r) => `SELECT 'shoot:' || ${r}.id || ':' AS subject, ${r}.id AS shoot`, {
        quiet: KEPT.shoot,
      }),
      table(ShootRosters, MERELY_THE_SHOOTS, ofShoot('shoot')),
      table(ReturnFolder, MERELY_THE_SHOOTS, ofShoot('shoot')),
      table(Bin, MERELY_THE_SHOOTS, ofShoot('shoot')),
    ],
  },
  frames: {
    of: 'shoot',
    tables: [
      table(
        Frame,
        FRAMES,
        (r) =>
          `SELECT 'frames:' || ${r}."shootId" || ':' || ${block(`${r}.key`)} AS subject, ${r}."shootId" AS shoot`,
        { quiet: MARKS },
      ),
      table(FrameText, IN_FRAMES, ofFrame, { quiet: ['sidecarBase'] }),
      table(Asset, IN_FRAMES, ofFile, { quiet: ['devices'] }),
      table(Copy, `"assetId" IN (SELECT id FROM asset WHERE ${IN_FRAMES})`, ofCopy),
      table(Damage, `"assetId" IN (SELECT id FROM asset WHERE ${IN_FRAMES})`, ofCopy),
      table(BinnedFrameRow, IN_FRAMES, ofFrame),
      table(BinnedFile, IN_FRAMES, ofFrame),
      table(BinnedCopy, IN_FRAMES, ofFrame),
    ],
  },
  trail: {
    of: 'shoot',
    tables: [
      table(
        Trail,
        `"shootId" = :shoot AND seq >= :key * ${BLOCK} AND seq < (:key + 1) * ${BLOCK}`,
        (r) =>
          `SELECT 'trail:' || ${r}."shootId" || ':' || ${block(`${r}.seq`)} AS subject, ${r}."shootId" AS shoot`,
      ),
    ],
  },
  loose: {
    of: 'shoot',
    tables: [
      table(Asset, LOOSE, null),
      table(Copy, `"assetId" IN (SELECT id FROM asset WHERE ${LOOSE})`, null),
      table(Damage, `"assetId" IN (SELECT id FROM asset WHERE ${LOOSE})`, null),
    ],
  },
  passes: {
    of: 'shoot',
    tables: [
      table(Pass, MERELY_THE_SHOOTS, ofShoot('passes')),
      table(
        PassPart,
        `"passId" IN (SELECT id FROM pass WHERE ${MERELY_THE_SHOOTS})`,
        (r) =>
          `SELECT 'passes:' || p."shootId" || ':' AS subject, p."shootId" AS shoot FROM pass p WHERE p.id = ${r}."passId"`,
      ),
    ],
  },
  arrival: {
    of: 'shoot',
    tables: [
      table(Arrival, ONE, ofEach('arrival')),
      table(ArrivalFile, `"arrivalId" = :key`, below('arrival', 'arrival', 'arrivalId')),
    ],
  },
  handoff: {
    of: 'shoot',
    tables: [
      table(Handoff, ONE, ofEach('handoff')),
      table(HandoffFile, `"handoffId" = :key`, below('handoff', 'handoff', 'handoffId')),
    ],
  },
  handed: { of: 'shoot', tables: [table(Handed, MERELY_THE_SHOOTS, ofShoot('handed'))] },
  returns: {
    of: 'shoot',
    tables: [
      table(Returned, MERELY_THE_SHOOTS, ofShoot('returns')),
      table(
        ReturnedOriginal,
        `"assetId" IN (SELECT "assetId" FROM returned WHERE ${MERELY_THE_SHOOTS})`,
        (r) =>
          `SELECT 'returns:' || t."shootId" || ':' AS subject, t."shootId" AS shoot FROM returned t WHERE t."assetId" = ${r}."assetId"`,
      ),
    ],
  },
  delivery: {
    of: 'shoot',
    tables: [
      table(Delivery, ONE, ofEach('delivery')),
      table(DeliveryFile, `"deliveryId" = :key`, below('delivery', 'delivery', 'deliveryId')),
    ],
  },
  sent: {
    of: 'shoot',
    tables: [
      table(Sent, ONE, ofEach('sent')),
      table(SentFile, `"sentId" = :key`, below('sent', 'sent', 'sentId')),
    ],
  },
  gallery: {
    of: 'shoot',
    tables: [
      table(Gallery, ONE, ofEach('gallery')),
      table(GalleryLink, `"galleryId" = :key`, below('gallery', 'gallery', 'galleryId'), {
        without: ['secret'],
      }),
      table(GalleryFrame, `"galleryId" = :key`, below('gallery', 'gallery', 'galleryId')),
      table(GalleryGuest, `"galleryId" = :key`, below('gallery', 'gallery', 'galleryId')),
      table(GallerySaid, `"galleryId" = :key`, below('gallery', 'gallery', 'galleryId')),
    ],
  },
  messages: { of: 'shoot', tables: [table(Message, MERELY_THE_SHOOTS, ofShoot('messages'))] },
};

/** Parts of which a shoot has several: one for each of these keys. The others it has once. */
const KEYS: Readonly<Record<string, { from: string; key: string }>> = {
  frames: { from: 'frame', key: block('key') },
  trail: { from: 'trail', key: block('seq') },
  ...Object.fromEntries(
    ['arrival', 'handoff', 'delivery', 'sent', 'gallery'].map((from) => [from, { from, key: 'id' }]),
  ),
};

/** The subjects of all parts of a shoot, in SQL; `shoot`: its id, in SQL. */
export const allOfShoot = (shoot: string): string =>
  Object.entries(RECORDED)
    .filter(([, { of }]) => of === 'shoot')
    .map(([kind]) => {
      const several = KEYS[kind];
      return several
        ? `SELECT DISTINCT '${kind}:' || ${shoot} || ':' || ${several.key} AS subject FROM ${several.from} WHERE "shootId" = ${shoot}`
        : `SELECT '${kind}:' || ${shoot} || ':' AS subject`;
    })
    .join(' UNION ALL ');

/** Tables that are not recorded, and why. What neither list names fails a test. */
export const NOT_RECORDED: Readonly<Record<string, string>> = {
  operation: 'history.jsonl of each shoot says it',
  shoot_volume: 'what lies where says it',
  space_shoot: 'counted from what lies where',
  space_part: 'counted from what lies where',
  shared_content: 'the files’ checksums say it',
  feature: 'measured anew from the pictures',
  picture_hash: 'measured anew from the pictures',
  own_text: 'read from the drives: what lies there',
  text_due: 'what each drive lacks is found anew',
  job: 'what is under way ends with the machine; what came of it stands in the ledger',
  job_item: 'as jobs; the way back from moves is lost with them',
  job_subject: 'as jobs',
  watch_rule: 'folders that are watched are this machine’s own',
  reader: 'card readers are this machine’s own',
  reader_device: 'card readers are this machine’s own',
  password: 'who may come in is said anew; the daily copy of the database has it',
  session: 'whoever was signed in signs in again',
  upload_link: 'links by which others send are made anew; what has come lies with this machine',
  gallery_browser: 'whoever was in a gallery comes in again',
  migrations: 'the new database’s own',
};
