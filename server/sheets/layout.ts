/** Where things stand on the pages of a sheet, in points (1/72 inch) from the upper left. */

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Papers, upright, in millimetres. Sources: ISO 216; ANSI Y14.1. */
export const papers = {
  a4: { width: 210, height: 297 },
  a3: { width: 297, height: 420 },
  letter: { width: 215.9, height: 279.4 },
} as const;
export type Paper = keyof typeof papers;

export interface Asked {
  paper: Paper;
  lying: boolean;
  /** Millimetres on all sides. */
  margin: number;
  columns: number;
  /** Points beneath each picture for its caption. */
  caption: number;
  /** Points above all on the first page, for the title. */
  title: number;
  /** Width by height of a cell's picture. */
  shape: number;
}

/** Points of a millimetre. */
export const POINTS = 72 / 25.4;
/** Between cells, points. */
const GAP = 14;

export interface Page {
  /** What the page's cells show, by their place in the whole. */
  cells: { index: number; picture: Box; caption: Box }[];
}

export interface Sheet {
  width: number;
  height: number;
  /** Within the margins of the first page. */
  title: Box;
  pages: Page[];
}

/** Lays out so many pictures, row by row; every page has at least one row, however small it must be. */
export function layOutSheet(count: number, asked: Asked): Sheet {
  const { paper, lying, columns, caption } = asked;
  const { width: w, height: h } = papers[paper];
  const [width, height] = (lying ? [h, w] : [w, h]).map(mm => mm * POINTS);
  const margin = asked.margin * POINTS;
  const inner = { x: margin, y: margin, width: width - 2 * margin, height: height - 2 * margin };
  const cellWidth = (inner.width - GAP * (columns - 1)) / columns;
  const pages: Page[] = [];
  for (let next = 0; next < count || pages.length === 0;) {
    const above = pages.length === 0 ? asked.title : 0;
    const room = inner.height - above;
    // A row never higher than the page: then pictures are smaller than their columns.
    const pictureHeight = Math.min(cellWidth / asked.shape, room - caption);
    const rows = Math.max(1, Math.floor((room + GAP) / (pictureHeight + caption + GAP)));
    const cells: Page['cells'] = [];
    for (let i = 0; i < rows * columns && next < count; i++, next++) {
      const x = inner.x + (i % columns) * (cellWidth + GAP);
      const y = inner.y + above + Math.floor(i / columns) * (pictureHeight + caption + GAP);
      cells.push({
        index: next,
        picture: { x, y, width: cellWidth, height: pictureHeight },
        caption: { x, y: y + pictureHeight, width: cellWidth, height: caption },
      });
    }
    pages.push({ cells });
  }
  return { width, height, title: { ...inner, height: asked.title }, pages };
}

/** The place of a picture within a box: as large as fits, at the bottom, from the left. */
export function fitted({ x, y, width, height }: Box, picture: { width: number; height: number }): Box {
  const scale = Math.min(width / picture.width, height / picture.height);
  const size = { width: picture.width * scale, height: picture.height * scale };
  return { x, y: y + height - size.height, ...size };
}
