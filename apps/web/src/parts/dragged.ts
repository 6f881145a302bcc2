/** What is dragged is a frame of this sheet, and nothing from elsewhere. */
export const DRAGGED = 'application/x-arkiv-frames';
