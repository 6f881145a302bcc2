/**
 * Folders by which a mounted tree is known as a card, as full paths below its root. DCIM: DCF 2.0 (CIPA DC-009), cameras
 * and phones. The others are the places in which clip cameras keep their clips; common practice, from memory.
 */
export const CARD_TREES: readonly string[] = [
  'DCIM',
  'PRIVATE/AVCHD',
  'PRIVATE/M4ROOT',
  'PRIVATE/XDROOT',
  'AVCHD/BDMV',
  'AVF_INFO',
  'BPAV',
  'CONTENTS/CLIP',
  'MP_ROOT',
  'XDROOT/Clip',
];

/** A phone on a cable shows its storages first: DCIM lies one level below. */
export const PHONE_TREE = 'DCIM';
