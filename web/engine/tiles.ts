import type { Tile } from '../../core/engine/render';

/** The side of the tiles that the server hands out. */
export const TILE = 512;

/** A photograph as the engine needs to know it. */
export interface PictureInfo {
  id: string;
  width: number;
  height: number;
  grey: boolean;
}

/** The size of a picture at a long edge, as the server rounds it. */
export function sizeAt(picture: { width: number; height: number }, longEdge: number) {
  const scale = Math.min(1, longEdge / Math.max(picture.width, picture.height));
  return {
    width: Math.max(1, Math.round(picture.width * scale)),
    height: Math.max(1, Math.round(picture.height * scale)),
  };
}

/** Tiles kept in memory at most: 1.5 MB each. */
const KEPT = 160;

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
      if (!response.ok)
        throw new Error(`The pixels of this photograph could not be loaded (${response.status}).`);
      return {
        codes: new Uint16Array(await response.arrayBuffer()),
        width: Math.min(TILE, width - column * TILE),
        height: Math.min(TILE, height - row * TILE),
        x: column * TILE,
        y: row * TILE,
      };
    });
    fetched.catch(() => this.kept.delete(key));
    this.kept.set(key, fetched);
    if (this.kept.size > KEPT) this.kept.delete(this.kept.keys().next().value!);
    return fetched;
  }
}
