import type { CurvePoints } from '../../core/settings/fields';
import type { StepTold, Told } from '../../words/step-told';
import { sizeOf } from './contact-sheet';
import { broken, type Faces } from './faces';
import { fitted, papers, POINTS, type Box, type Paper as PaperName } from './layout';
import type { Finishing } from './paper';
import { GREY, INK, NOTE, TITLE, writeWithin } from './type';

/** A treatment on paper: the picture beside every step with its values, so that it can be made again by somebody else. */

export interface CardStep extends StepTold {
  /** The picture after it; null where a treatment has too many to show each. */
  jpeg: Uint8Array | null;
}

export interface Card {
  series: string;
  title: string;
  take: string;
  date: string;
  /** The photograph as it came, in its frame, and the picture. */
  bare: Uint8Array;
  finished: Uint8Array;
  /** What is so of the whole: its strength, its frame. */
  whole: readonly Told[];
  steps: readonly CardStep[];
}

const LINE = 11.5;
const SMALL = { face: 'sans', size: NOTE, colour: GREY } as const;
const NAME = { face: 'sans', size: NOTE + 0.5, colour: GREY } as const;
const VALUE = { face: 'sans', size: NOTE + 0.5, colour: INK } as const;
/** Points between a step and the next. */
const APART = 16;
/** The width of the picture beside a step. */
const BESIDE = 128;
const SWATCH = 9;
const CURVE = 54;
const COLUMNS = 2;
const BETWEEN = 14;

/** A setting as lines in a column, with what is drawn of it. */
interface Block {
  told: Told;
  /** How far from the left its value begins, where it stands beside the name. */
  beside: number | null;
  /** Its value, where that stands beneath the name. */
  lines: string[];
  height: number;
}

function blockOf(faces: Faces, told: Told, width: number): Block {
  const { name, value, colours, curve } = told;
  const named = faces.width(`${faces.known(name, NAME.face)}  `, NAME.face, NAME.size);
  const fits = named + faces.width(faces.known(value, VALUE.face), VALUE.face, VALUE.size) <= width;
  // Beside its name where there is room, else beneath it.
  const lines = fits ? [] : broken(faces, value, VALUE.face, VALUE.size, width);
  const height = (1 + lines.length) * LINE + (colours ? SWATCH + 4 : 0) + (curve ? CURVE + 6 : 0) + 3;
  return { told, beside: fits ? named : null, lines, height };
}

/** Blocks in columns, each in the shortest so far. */
function inColumns(blocks: readonly Block[]): {
  placed: { block: Block; column: number; y: number }[];
  height: number;
} {
  const heights = Array<number>(COLUMNS).fill(0);
  const placed = blocks.map(block => {
    const column = heights.indexOf(Math.min(...heights));
    const y = heights[column];
    heights[column] += block.height;
    return { block, column, y };
  });
  return { placed, height: Math.max(...heights) };
}

function drawCurve(paper: Finishing, points: CurvePoints, { x, y, width, height }: Box): void {
  paper.fill({ x, y, width, height }, '#f4f4f4', '#b5b5b5');
  const at = ([u, v]: readonly [number, number]) => [x + u * width, y + (1 - v) * height] as const;
  paper.line([at([0, 0]), at([1, 1])], '#d0d0d0', 0.5);
  paper.line(points.map(at), INK, 1);
}

function drawBlock(
  paper: Finishing,
  faces: Faces,
  { told, beside, lines }: Block,
  { x, y: top, width }: Omit<Box, 'height'>,
): void {
  let y = top;
  if (told.colours) {
    told.colours.slice(0, Math.floor(width / (SWATCH + 3))).forEach((colour, i) => {
      paper.fill({ x: x + i * (SWATCH + 3), y, width: SWATCH, height: SWATCH }, colour, '#8a8a8a');
    });
    y += SWATCH + 4;
  }
  writeWithin(paper, faces, told.name, { x, y: y + NOTE, width }, NAME);
  if (beside !== null) {
    writeWithin(paper, faces, told.value, { x: x + beside, y: y + NOTE, width: width - beside + 1 }, VALUE);
  }
  y += LINE;
  for (const line of lines) {
    paper.write(line, { x, y: y + NOTE }, VALUE);
    y += LINE;
  }
  if (told.curve) drawCurve(paper, told.curve, { x, y: y + 1, width: CURVE, height: CURVE });
}

/** Lays a card on paper, upright, on as many pages as it takes. */
export async function treatmentCard(
  paper: Finishing,
  faces: Faces,
  card: Card,
  { paper: name, margin: millimetres }: { paper: PaperName; margin: number },
): Promise<void> {
  const [width, height] = [papers[name].width * POINTS, papers[name].height * POINTS];
  const margin = millimetres * POINTS;
  const inner = { x: margin, width: width - 2 * margin };
  const bottom = height - margin - 16;
  let y = margin;
  let pages = 0;
  const turnPage = () => {
    paper.page(width, height);
    pages++;
    y = margin;
    if (pages > 1) {
      writeWithin(
        paper,
        faces,
        `${card.title}, ${card.take}, page ${pages}`,
        { ...inner, y: y + NOTE },
        SMALL,
      );
      y += 22;
    }
  };

  turnPage();
  const dated = faces.width(faces.known(card.date, 'sans'), 'sans', NOTE + 1);
  const serif = { face: 'serif', size: TITLE, colour: INK } as const;
  writeWithin(paper, faces, card.title, { x: inner.x, y: y + TITLE, width: inner.width - dated - 12 }, serif);
  const date = { ...SMALL, size: NOTE + 1 };
  writeWithin(
    paper,
    faces,
    card.date,
    { x: inner.x + inner.width - dated, y: y + TITLE, width: dated + 1 },
    date,
  );
  const of = [card.take, card.series].filter(Boolean).join(', ');
  writeWithin(paper, faces, of, { ...inner, y: y + TITLE + 16 }, { ...SMALL, size: NOTE + 1 });
  y += TITLE + 30;

  // The picture, and what it was.
  const gap = 12;
  const large = { x: inner.x, y, width: inner.width * 0.66 - gap / 2, height: height * 0.34 };
  const size = await sizeOf(card.finished);
  const shown = fitted(
    { ...large, height: Math.min(large.height, (large.width * size.height) / size.width) },
    size,
  );
  await paper.picture(card.finished, shown);
  const aside = {
    x: shown.x + shown.width + gap,
    y,
    width: inner.width - shown.width - gap,
    height: shown.height,
  };
  const bare = fitted(
    { ...aside, width: Math.min(aside.width, inner.width * 0.34) },
    await sizeOf(card.bare),
  );
  await paper.picture(card.bare, bare);
  writeWithin(paper, faces, 'As it came', { x: bare.x, y: y + shown.height + 11, width: bare.width }, SMALL);
  y += shown.height + 20;
  for (const told of card.whole) {
    drawBlock(paper, faces, blockOf(faces, told, inner.width), { ...inner, y });
    y += LINE;
  }
  y += 8;

  for (const [i, step] of card.steps.entries()) {
    const text = { x: inner.x + BESIDE + gap, width: inner.width - BESIDE - gap };
    const column = (text.width - BETWEEN * (COLUMNS - 1)) / COLUMNS;
    const blocks = inColumns(step.told.map(told => blockOf(faces, told, column)));
    const picture = step.jpeg ? await sizeOf(step.jpeg) : { width: BESIDE, height: 1 };
    const beside = { width: BESIDE, height: Math.min((BESIDE * picture.height) / picture.width, 150) };
    const head = step.area ? 38 : 26;
    const tall = Math.max(beside.height, head + (step.told.length ? blocks.height : LINE));
    if (y + tall > bottom && y > margin + 30) turnPage();
    paper.line(
      [
        [inner.x, y - 7],
        [inner.x + inner.width, y - 7],
      ],
      '#d0d0d0',
      0.5,
    );
    if (step.jpeg) await paper.picture(step.jpeg, { ...fitted({ x: inner.x, y, ...beside }, picture), y });
    const number = writeWithin(paper, faces, `${i + 1}`, { ...text, y: y + 13 }, SMALL) + 7;
    const called = { x: text.x + number, y: y + 13, width: text.width - number };
    const named = writeWithin(paper, faces, step.name, called, { face: 'serif', size: 15, colour: INK });
    const after = { x: called.x + named + 8, y: y + 13, width: Math.max(0, called.width - named - 8) };
    writeWithin(paper, faces, step.stage, after, SMALL);
    if (step.area) writeWithin(paper, faces, `On ${step.area}`, { ...text, y: y + 27 }, VALUE);
    if (!step.told.length)
      writeWithin(paper, faces, 'As it is set out.', { ...text, y: y + head + 4 }, SMALL);
    for (const { block, column: c, y: down } of blocks.placed) {
      drawBlock(paper, faces, block, {
        x: text.x + c * (column + BETWEEN),
        y: y + head + down,
        width: column,
      });
    }
    y += tall + APART;
  }
}
