import { byId, type Mask } from '../masks/mask';
import { strokesOf } from '../masks/part-strokes';
import { standingOn } from '../masks/standing';
import { strokeName } from '../masks/stroke-name';
import type { Step } from '../treatment/treatment';

/** What pixels depend on, as what equal keys are made of. */

/** What makes a step's pixels: its name, id and place on the line do not. */
export const pixelKey = ({ kind, strength, mix, reach, settings, alone }: Step) => ({
  kind,
  strength,
  mix,
  reach,
  settings,
  alone,
});

const known = new WeakMap<Mask, string>();

/** What makes a mask's own coverage, beside those that it stands on; made once for each object. */
function ownKey(mask: Mask): string {
  const found = known.get(mask);
  if (found !== undefined) return found;
  const { id: _, name: __, parts, ...shape } = mask;
  // Strokes by their names: a painted area may have thousands of points.
  const named = parts.map(part => {
    const names = strokesOf(part).map(([setting, strokes]) => [setting, strokes.map(strokeName)]);
    return names.length ? { ...part, ...(Object.fromEntries(names) as object) } : part;
  });
  const key = JSON.stringify({ ...shape, parts: named });
  known.set(mask, key);
  return key;
}

/** A mask with all that it stands on. */
export const maskKey = (id: string, masks: readonly Mask[]): unknown[] =>
  standingOn(byId(masks, id), masks).map(each => [each.id, ownKey(each)]);
