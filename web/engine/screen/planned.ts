import { Abandoned } from '../../../core/engine/abandoned';
import type { KeptTable } from '../../../core/engine/kept-tables';
import type { Plan } from '../../../core/engine/plan';
import { withMargin } from '../../../core/engine/render';
import type { Surveys } from '../../../core/engine/run';
import type { Rectangle } from '../../../core/frame/geometry';
import type { Tile } from '../../../core/frame/framing';
import type { Occupied } from '../../../core/kernels/occupied';
import { atHand } from '../at-hand';
import { levelOf, TILE, type Framed } from '../levels';
import { coloursRead, keptPixels, planner, surveysOf } from '../pixels';
import { place, printOf } from '../view';
import type { ShowRequest } from './messages';
import { asked, screens, staleness } from './screens';

/** What a fine picture needs before its first tile: its tables, what is found in it, its pixels. */

/** The fine plan of a request for some parts, what its passes find, and the parts' pixels; null where it went stale meanwhile. */
export async function planned(
  { picture, treatment }: Pick<ShowRequest, 'picture' | 'treatment'>,
  of: Framed,
  parts: readonly Rectangle[],
  isStale: () => boolean,
  /** The size at which the whole picture is looked at: what is found serves at any. */
  looked: Framed = of,
): Promise<{ plan: Plan; surveys: Surveys; tiles: Tile[]; occupied?: Occupied } | null> {
  const { grey } = picture;
  const pixels = parts.length * TILE * TILE;
  // A plan without pixels bakes nothing, but says what it needs.
  const bare = planner(treatment, { grey, pixels: 0 });
  const tiles = await Promise.all(parts.map(part => keptPixels(of, withMargin(bare, part, of.geometry))));
  // Fine tables hold the colours that are there alone.
  const occupied = grey ? undefined : await coloursRead(bare, of, treatment, tiles, looked);
  if (isStale()) return null;
  try {
    const plan = planner(treatment, { grey, pixels, occupied, isAbandoned: isStale });
    return { plan, surveys: await surveysOf(plan, looked, treatment, isStale), tiles, occupied };
  } catch (error) {
    if (error instanceof Abandoned) return null;
    throw error;
  }
}

/** The tables that a picture needs, for workers that share its tiles: baked by one for all. Null where they are no longer wanted. */
export async function prepare(id: number, request: ShowRequest): Promise<KeptTable[] | null> {
  const { picture, treatment, viewport, view, margin, draft, serial } = request;
  const screen = screens.get(id);
  if (!screen) return null;
  asked(screen, serial);
  await atHand(treatment);
  const at = place(printOf(picture, treatment.frame), viewport, view, margin);
  const { of, parts } = levelOf(picture, treatment.frame, at, viewport, 0);
  if (draft) planner(treatment, { grey: picture.grey, pixels: parts.length * TILE * TILE, draft });
  else if (!(await planned(request, of, parts, staleness(id, screen, serial)))) return null;
  return shareTables(planner.tables());
}

/** Takes tables in that another worker has baked. */
export const learn = (tables: KeptTable[]): void => planner.learn(tables);

/** Tables in memory that workers share, where the page may have such. */
function shareTables(tables: KeptTable[]): KeptTable[] {
  if (!self.crossOriginIsolated) return tables;
  for (const [, { table }] of tables) {
    if (table.kind !== 'grid' && table.kind !== 'ramp') continue;
    const of = table.kind === 'grid' ? table.grid : table.ramp;
    if (of.values.buffer instanceof SharedArrayBuffer) continue;
    const values = new Float32Array(new SharedArrayBuffer(of.values.byteLength));
    values.set(of.values);
    of.values = values;
  }
  return tables;
}
