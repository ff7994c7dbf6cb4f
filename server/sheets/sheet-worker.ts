import { drawSheet } from './draw-sheet';

/** What the thread runs that draws sheets: letters and lines of many steps take seconds, in which others are to be answered. */
export default drawSheet;
