export * from './card/types';
export * from './card/fileKinds';
export * from './card/dcf';
export * from './card/rawName';
export * from './time/captureTime';
export * from './naming/keptFacts';
export * from './naming/pattern';
export * from './naming/legalName';
export * from './naming/together';
export * from './folders/ownFolder';
export * from './folders/plan';
export * from './metadata/cameraFacts';
export * from './metadata/facts';
export * from './metadata/embedded';
export * from './inside/inside';
export * from './returns/match';
export * from './returns/whole';
export * from './xmp/sidecar';
export { foreignIn, type Foreign } from './xmp/foreign';
export * from './albums/album';
export * from './albums/albumText';
export * from './albums/albumList';
export * from './albums/membership';
export * from './albums/place';
export * from './marks/marks';
export * from './marks/note';
export * from './marks/noteList';
export * from './stages/stages';
export * from './messages/message';
export * from './gallery/passCode';
export * from './gallery/said';
export * from './journal/history';
export * from './journal/operation';
export * from './journal/turns';
export * from './journal/shootFacts';
export * from './record/record';
export * from './proof/schedule';
export * from './space/space';
export * from './journal/merged';
export * from './upload/upload';
export * from './text/bytes';
export * from './adopt/adopt';
export * from './adopt/said';
export {
  baseOf,
  chosenFiles,
  settledFiles,
  stampOf,
  WATCH_TYPES,
  watchTypeOf,
  type Outside,
  type Unchanged,
  type WatchChoice,
  type WatchType,
} from './watch/watch';
export * from './query/fields';
export * from './query/filter';
export { foldText } from './query/folding';
export * from './query/words';
export * from './query/deeds';
export * from './query/keeperRule';
export * from './query/joined';
export * from './query/line';
export { lineValue, typedEnd } from './query/lineTokens';
export { Bits } from './find/bits';
export * from './find/days';
export * from './find/facets';
export * from './find/folders';
export * from './find/findIndex';
export type { FoundShoot } from './find/foundShoots';
export * from './find/results';
export * from './find/suggestions';
export * from './query/order';
export * from './intake/types';
export * from './intake/plan';
export * from './intake/split';
export * from './intake/copyState';
export * from './intake/receipt';
export * from './intake/clocks';
export * from './delivery/outputSpec';
export * from './delivery/told';
export * from './delivery/manifest';
export * from './delivery/bag';
export * from './delivery/remake';
export * from './text/csv';
export * from './description/description';
export * from './description/keywords';
export * from './description/template';
export * from './description/texts';
export * from './description/writing';
export * from './move/arrange';
export * from './move/aside';
export * from './move/bin';
export { isWithin, type HeldFile } from './move/within';
export * from './move/named';
export * from './move/plan';
export * from './errors/catalogue';
export { clockBetween, momentsOf, type ClockOffset, type Moment } from './takes/clocks';
export * from './takes/closeness';
export * from './takes/correction';
export * from './takes/grouping';
export * from './takes/kinds';
export * from './takes/variants';
export { meritsOf, type JudgedFrame, type Merit } from './takes/merit';
export * from './card/cardTrees';
export * from './colour/jpegColour';
export * from './colour/profile';
export * from './finishing/values';
export * from './finishing/shape';
export { cropFrom, moved, onScreen, pulled, sized, turnedBy, type Held } from './finishing/cropping';
export { gainsOf, changesTones, toner, tonerOf } from './finishing/tone';
export * from './finishing/balance';
export * from './finishing/named';
export * from './passes/comparison';
export * from './passes/pass';
export * from './passes/regroup';
export * from './previews/previewAddress';
export * from './metadata/clipTime';
export * from './devices/devices';
export * from './vision/blocks';
export * from './vision/grey';
export {
  bandsBeside,
  bandsOf,
  FOUND_WITHIN,
  hashDistance,
  hashOfBands,
  type Bands,
  type Hash,
} from './vision/hashes';
export { byDetail, DETAILED_SIDE, SURELY, surelyOf, type Detailed, type Original } from './vision/detail';
export { tiltOf } from './vision/horizon';
export * from './vision/keptMeasures';
export { greyOf, lightOf, type Light, type Rgb } from './vision/light';
export * from './vision/likeness';
export * from './vision/look';
export { commonOf, type Common, type Way } from './vision/matching';
export * from './vision/measures';
export { shiftBetween, SURE, type Shift } from './vision/registration';
export * from './vision/similarity';
export * from './vision/sharpness';
export * from './vision/tones';
export * from './vocabulary/term';
export * from './vocabulary/search';
export * from './vocabulary/changes';
export * from './vocabulary/indented';
export * from './vocabulary/bring';
export * from './vocabulary/along';
export * from './vocabulary/skos';
export * from './vocabulary/give';
export * from './vocabulary/meanings';
export * from './vocabulary/roster';
