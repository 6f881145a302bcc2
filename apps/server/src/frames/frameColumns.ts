// What is sent of frames, in SQL. Knows no service: threads of their own read frames too.
import { FINISHED_BY, pictureOrder } from '@arkiv/core';

/** The columns of a loaded shoot, in the order in which they are sent. */
export const FRAME_COLUMNS = [
  'id',
  'name',
  'original',
  'verdict',
  'stars',
  'label',
  'instant',
  'local',
  'millis',
  'offsetMinutes',
  'correctionMillis',
  'body',
  'serial',
  'lens',
  'aperture',
  'exposure',
  'iso',
  'focalLength',
  'exposureBias',
  'focus',
  'width',
  'height',
  'orientation',
  'seconds',
  'role',
  'format',
  'raw',
  'sign',
  'detail',
  'measures',
  'voice',
  'edited',
  'note',
  'stage',
  'take',
  'close',
  'dx',
  'dy',
  'piles',
  'albums',
  'caption',
  'keywords',
  'persons',
  'texts',
  'finish',
  'folder',
] as const;

/** Facts as the camera wrote them, which stand beside the frame. */
const TEXT_COLUMNS = ['apertureText', 'exposureText'] as const;

/** The key of a file’s picture, as `pictureKey`, in SQL. */
export const pictureKeySql = (alias: string): string => `COALESCE(${alias}.picture, ${alias}.sha256)`;

/** Key of the picture that shows a frame (f), in SQL. */
export const PICTURE = `(SELECT ${pictureKeySql('a')} FROM asset a WHERE a.id = f."shownBy")`;

/**
 * Key under which a frame (f) is shown: of its picture with what it is finished with. An edit that came back was finished elsewhere, and
 * is shown as it is.
 */
export const SHOWN_PICTURE = `CASE WHEN f.finish = '' OR f.edited IS NOT NULL THEN ${PICTURE} ELSE ${PICTURE} || '${FINISHED_BY}' || f.finish END`;

/** Key of the picture that a frame's (f) camera took, whatever shows it: by that frames are compared, and seen before an edit. */
export const TAKEN = `CASE WHEN f.edited IS NULL THEN ${PICTURE} ELSE
  (SELECT ${pictureKeySql('o')} FROM asset o WHERE o."frameId" = f.id AND o.role IN ('original', 'clip')
   ORDER BY ${pictureOrder('o')} LIMIT 1) END`;

const ofEdit = (column: 'width' | 'height'): string =>
  `CASE WHEN f.edited IS NULL THEN f."${column}" ELSE COALESCE(
    (SELECT e."${column}" FROM returned e WHERE e."assetId" = f."shownBy"), f."${column}") END`;

/** Of a frame that an edit shows, the size of that one: it may be cut, and it is upright. */
const OF_EDIT = {
  width: ofEdit('width'),
  height: ofEdit('height'),
  orientation: `CASE WHEN f.edited IS NOT NULL AND EXISTS (SELECT 1 FROM returned e
    WHERE e."assetId" = f."shownBy" AND e.width IS NOT NULL) THEN 1 ELSE f.orientation END`,
};

/** What is selected of a frame (f) with what stands beside it (t). */
export const LOADED_FRAME = [
  ...FRAME_COLUMNS.map((c) =>
    c in OF_EDIT ? `${OF_EDIT[c as keyof typeof OF_EDIT]} AS "${c}"` : `f."${c}"`,
  ),
  `f."place" AS lies`,
  ...TEXT_COLUMNS.map((c) => `t."${c}"`),
  `${SHOWN_PICTURE} AS picture`,
  `(SELECT a.size FROM asset a WHERE a.id = f."shownBy") AS bytes`,
].join(', ');
