import { TILE } from '../../contract/limits';
import { sizeAt, type Rectangle } from '../../core/frame/geometry';
import type { Tile } from '../../core/frame/framing';

/** A photograph as the engine needs to know it. */
export interface PictureInfo {
  id: string;
  width: number;
  height: number;
  grey: boolean;
  /** What is wrong with the original's file, where something is. */
  damage?: string | null;
}

/** Tiles kept in memory at most: 1.5 MB each. */
const KEPT = 160;

/** The server, or what it needs, does not answer just now. It comes out of a worker with this name. */
export const PIXELS_AWAY = 'PixelsAway';
class PixelsAway extends Error {
  override readonly name = PIXELS_AWAY;
  constructor() {
    super('The pixels of this photograph cannot be loaded just now.');
  }
}
const noAnswer = () => {
  throw new PixelsAway();
};

/** Fetches tiles of originals and keeps the last used. */
export class TileSource {
  private readonly kept = new Map<string, Promise<Tile>>();

  tile(picture: PictureInfo, longEdge: number, column: number, row: number): Promise<Tile> {
    const key = `/api/photographs/${picture.id}/pixels/${longEdge}/${column}/${row}`;
    const known = this.kept.get(key);
    if (known) {
      this.kept.delete(key);
      this.kept.set(key, known);
      return known;
    }
    const { width, height } = sizeAt(picture, longEdge);
    const fetched = fetch(key).then(async response => {
      if (response.status === 503) throw new PixelsAway();
      if (!response.ok) {
        const problem = (await response.json().catch(() => null)) as {
          title?: string;
          detail?: string;
        } | null;
        const reason = [problem?.title, problem?.detail].filter(Boolean).join(' ') || `(${response.status})`;
        throw new Error(`The pixels of this photograph could not be loaded. ${reason}`);
      }
      return {
        codes: new Uint16Array(await response.arrayBuffer()),
        width: Math.min(TILE, width - column * TILE),
        height: Math.min(TILE, height - row * TILE),
        x: column * TILE,
        y: row * TILE,
      };
    }, noAnswer);
    fetched.catch(() => this.kept.delete(key));
    this.kept.set(key, fetched);
    if (this.kept.size > KEPT) this.kept.delete(this.kept.keys().next().value!);
    return fetched;
  }

  /** A rectangle of the photograph at a long edge, put together from its tiles. */
  async rectangle(picture: PictureInfo, longEdge: number, part: Rectangle): Promise<Tile> {
    const firstColumn = Math.floor(part.x / TILE);
    const firstRow = Math.floor(part.y / TILE);
    const lastColumn = Math.floor((part.x + Math.max(1, part.width) - 1) / TILE);
    const lastRow = Math.floor((part.y + Math.max(1, part.height) - 1) / TILE);
    const asked: Promise<Tile>[] = [];
    for (let row = firstRow; row <= lastRow; row++) {
      for (let column = firstColumn; column <= lastColumn; column++) {
        asked.push(this.tile(picture, longEdge, column, row));
      }
    }
    const tiles = await Promise.all(asked);
    const [only] = tiles;
    if (tiles.length === 1 && only.width === part.width && only.height === part.height) return only;
    const codes = new Uint16Array(part.width * part.height * 3);
    for (const tile of tiles) {
      const left = Math.max(part.x, tile.x);
      const right = Math.min(part.x + part.width, tile.x + tile.width);
      const top = Math.max(part.y, tile.y);
      const bottom = Math.min(part.y + part.height, tile.y + tile.height);
      for (let y = top; y < bottom; y++) {
        const from = ((y - tile.y) * tile.width + left - tile.x) * 3;
        const row = tile.codes.subarray(from, from + (right - left) * 3);
        codes.set(row, ((y - part.y) * part.width + left - part.x) * 3);
      }
    }
    return { ...part, codes };
  }
}
