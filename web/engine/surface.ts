import type { Frame } from '../../core/frame/frame';
import { framedSizeAt, geometryOf, sizeAt, type Rectangle } from '../../core/frame/geometry';
import type { Piece, TileState } from './screen';
import type { PictureInfo } from './tiles';
import type { Placement, Size } from './view';

/**
 * What hangs on the wall: a canvas, and the tiles of the picture that are at hand. Whenever the picture is moved, made
 * larger or framed otherwise, the tiles are drawn as it lies then, in the same frame as all that stands about it; sharper
 * ones take their places as they come.
 */

/** The colour under a point of the picture: encoded sRGB 0..1. */
export type Reading = [number, number, number];

/** Where the picture lies on the canvas, and in which frame. Device pixels. */
export interface Hung {
  picture: PictureInfo;
  frame: Frame;
  at: Placement;
  viewport: Size;
}

interface Tile {
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  of: string;
  edge: number;
  size: Size;
  part: Rectangle;
  /** Of which state it is, as the worker counts. */
  version: number;
  content: number;
  /** A patch over finer tiles that have become stale. */
  isPatch: boolean;
  frame: Frame;
}

/** Tiles kept at most, a quarter of a megabyte each. */
const KEPT = 400;

const contextOf = (of: OffscreenCanvas) => of.getContext('2d', { willReadFrequently: true })!;
const keyOf = ({ of, part }: Pick<Piece, 'of' | 'part'>) => `${of} ${part.x} ${part.y}`;

export class Surface {
  private readonly context: CanvasRenderingContext2D;
  private readonly tiles = new Map<string, Tile>();
  /** Tiles that have been asked for again. */
  private readonly awaited = new Set<string>();
  private hung: Hung | null = null;
  private smooth: ReturnType<typeof setTimeout> | undefined;

  /** @param onMissing told of a tile that is said to be here and is not */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly onMissing: (piece: Piece) => void,
  ) {
    this.context = canvas.getContext('2d', { willReadFrequently: true })!;
  }

  /** Hangs the picture: draws what is at hand as it lies now. */
  hang(hung: Hung): void {
    const { viewport } = hung;
    const isOther = this.hung?.picture.id !== hung.picture.id;
    if (isOther) {
      this.tiles.clear();
      this.awaited.clear();
    }
    this.hung = hung;
    if (this.canvas.width !== viewport.width) this.canvas.width = viewport.width;
    if (this.canvas.height !== viewport.height) this.canvas.height = viewport.height;
    this.draw(null, 'low');
    this.drawWell();
  }

  /** A small picture of the whole, for what is not there yet. */
  lay(image: ImageBitmap): void {
    if (!this.hung || this.tiles.size) return;
    const { width, height } = image;
    const canvas = new OffscreenCanvas(width, height);
    const context = contextOf(canvas);
    context.drawImage(image, 0, 0);
    const part = { x: 0, y: 0, width, height };
    const { frame } = this.hung;
    const size = { width, height };
    const as = { of: 'small', edge: 0, version: 0, content: -1, isPatch: false };
    const tile = { ...as, canvas, context, size, part, frame };
    this.tiles.set('small', tile);
    this.draw(null, 'high');
  }

  /** Takes a piece, and draws it where it lies. */
  take(piece: Piece): void {
    const { hung } = this;
    if (!hung) return;
    const key = keyOf(piece);
    const { part, only, content, version } = piece;
    let tile = this.tiles.get(key);
    const isThere = tile?.part.width === part.width && tile.part.height === part.height;
    const isAll = piece.pixels && only.width === part.width && only.height === part.height;
    // A change is laid on the state before it, and nothing on what is of its state.
    const fits = isThere && tile!.version === (piece.pixels ? version - 1 : version);
    if (!fits && !isAll) {
      // A part of what is not here would leave the rest blank, or old.
      this.awaited.add(key);
      this.onMissing(piece);
      return;
    }
    if (!tile || !isThere) {
      const canvas = new OffscreenCanvas(part.width, part.height);
      tile = { ...piece, canvas, context: contextOf(canvas), isPatch: !piece.whole, frame: hung.frame };
    }
    if (!piece.whole) {
      for (const [name, other] of this.tiles) {
        if (other.isPatch && other.content < content) this.tiles.delete(name);
      }
    }
    tile.content = content;
    tile.version = version;
    this.awaited.delete(key);
    this.tiles.delete(key);
    this.tiles.set(key, tile);
    if (this.tiles.size > KEPT) this.tiles.delete(this.tiles.keys().next().value!);
    if (!piece.pixels) return;
    const image = new ImageData(new Uint8ClampedArray(piece.pixels), only.width, only.height);
    tile.context.putImageData(image, only.x - part.x, only.y - part.y);
    this.draw(this.place(tile, only), 'high');
  }

  /** The picture of a content is whole: what stood in for it is let go. */
  settle(content: number): void {
    for (const [name, tile] of this.tiles) {
      // Pieces may still be on their way to tiles of this size.
      if (tile.isPatch || (tile.content !== content && !this.isOfThisSize(tile))) this.tiles.delete(name);
    }
    this.draw(null, 'high');
  }

  /** Those of some tiles that are not here, or here in another state; and whether that was known, and they were asked for. */
  lost(tiles: readonly TileState[]): { tiles: TileState[]; wereAwaited: boolean } {
    const keyOfState = ({ of, x, y }: TileState) => `${of} ${x} ${y}`;
    const lost = tiles.filter(tile => this.tiles.get(keyOfState(tile))?.version !== tile.version);
    return { tiles: lost, wereAwaited: lost.every(tile => this.awaited.has(keyOfState(tile))) };
  }

  /** What is drawn at a device pixel; null where there is nothing. */
  read(x: number, y: number): Reading | null {
    if (x < 0 || y < 0 || x >= this.canvas.width || y >= this.canvas.height) return null;
    const [r, g, b, a] = this.context.getImageData(x, y, 1, 1).data;
    return a ? [r / 255, g / 255, b / 255] : null;
  }

  /** After a moment at rest what was drawn in haste is drawn well. */
  private drawWell(): void {
    clearTimeout(this.smooth);
    this.smooth = setTimeout(() => this.draw(null, 'high'), 80);
  }

  /** Whether a tile is of the size that the picture is rendered at as it hangs now. */
  private isOfThisSize({ size }: Tile): boolean {
    const { picture, frame, at } = this.hung!;
    return size.width === framedSizeAt(picture, frame, at.longEdge).width;
  }

  /** Where a rectangle of a tile lies on the canvas: whole pixels, so that no seam shows between tiles. */
  private place({ size }: Tile, { x, y, width, height }: Rectangle): Rectangle {
    const { at } = this.hung!;
    const [across, down] = [at.width / size.width, at.height / size.height];
    const left = Math.round(at.x + x * across);
    const top = Math.round(at.y + y * down);
    return {
      x: left,
      y: top,
      width: Math.round(at.x + (x + width) * across) - left,
      height: Math.round(at.y + (y + height) * down) - top,
    };
  }

  /** Draws all tiles, or those in a rectangle of the canvas: stale beneath fresh, coarse beneath fine. */
  private draw(within: Rectangle | null, quality: 'low' | 'high'): void {
    const { context, hung } = this;
    if (!hung) return;
    const { at } = hung;
    const order = [...this.tiles.values()].sort((a, b) => a.content - b.content || a.edge - b.edge);
    context.save();
    context.beginPath();
    if (within) context.rect(within.x, within.y, within.width, within.height);
    else context.rect(Math.round(at.x), Math.round(at.y), Math.round(at.width), Math.round(at.height));
    if (!within) context.clearRect(0, 0, this.canvas.width, this.canvas.height);
    context.clip();
    for (const tile of order) this.drawTile(tile, within, quality);
    context.restore();
  }

  private drawTile(tile: Tile, within: Rectangle | null, quality: 'low' | 'high'): void {
    const { context } = this;
    const { picture, frame, at } = this.hung!;
    if (tile.frame !== frame && JSON.stringify(tile.frame) !== JSON.stringify(frame)) {
      this.drawOtherwise(tile, picture, frame, at);
      return;
    }
    const to = this.place(tile, tile.part);
    const isApart =
      within &&
      (to.x >= within.x + within.width ||
        to.y >= within.y + within.height ||
        to.x + to.width <= within.x ||
        to.y + to.height <= within.y);
    if (isApart || to.width <= 0 || to.height <= 0) return;
    const zoom = at.width / tile.size.width;
    // What is made for this size shows its pixels when it is enlarged; what stands in for it does not.
    context.imageSmoothingEnabled = zoom < 1 || !this.isOfThisSize(tile);
    context.imageSmoothingQuality = zoom < 1 ? quality : 'low';
    context.drawImage(tile.canvas, to.x, to.y, to.width, to.height);
  }

  /** A tile of another frame of the same photograph, where its corners lie in this one. */
  private drawOtherwise(tile: Tile, picture: PictureInfo, frame: Frame, at: Placement): void {
    const { context } = this;
    const size = sizeAt(picture, 2048);
    const from = geometryOf(size, tile.frame);
    const to = geometryOf(size, frame);
    const place = new Float64Array(2);
    const corner = (x: number, y: number) => {
      from.toPhotograph((x / tile.size.width) * from.width, (y / tile.size.height) * from.height, place);
      to.toFramed(place[0], place[1], place);
      return [at.x + (place[0] / to.width) * at.width, at.y + (place[1] / to.height) * at.height];
    };
    const { x, y, width, height } = tile.part;
    const [first, right, below] = [corner(x, y), corner(x + width, y), corner(x, y + height)];
    context.save();
    context.transform(
      (right[0] - first[0]) / width,
      (right[1] - first[1]) / width,
      (below[0] - first[0]) / height,
      (below[1] - first[1]) / height,
      first[0],
      first[1],
    );
    context.imageSmoothingEnabled = true;
    context.drawImage(tile.canvas, 0, 0);
    context.restore();
  }

  close(): void {
    clearTimeout(this.smooth);
    this.tiles.clear();
  }
}
