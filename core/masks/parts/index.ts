import type { SettingsOf } from '../../settings/fields';
import type { Op, PartKind } from '../define';
import { brush } from './brush';
import { found } from './found';
import { hues } from './hues';
import { linear } from './linear';
import { mask } from './mask';
import { oval } from './oval';
import { picture } from './picture';
import { tones } from './tones';
import { whole } from './whole';

/** Every kind of mask part, in the order in which they are offered. Adding one is a file and a line here. */
export const partKinds = [brush, found, linear, oval, tones, hues, whole, picture, mask] as const;

type PartOf<P> = P extends PartKind<infer K, infer F> ? { kind: K; op: Op } & SettingsOf<F> : never;

/** A part of a mask. */
export type MaskPart = PartOf<(typeof partKinds)[number]>;

// eslint-disable-next-line no-restricted-syntax -- one list of kinds of different settings; each reads its own
const byKind = new Map<string, PartKind>(partKinds.map(p => [p.kind, p as unknown as PartKind]));

/** The definition of a part's kind; what the part is set to goes into its functions. */
export function kindOfPart(part: MaskPart): PartKind {
  const found = byKind.get(part.kind);
  if (!found) throw new RangeError(`unknown mask part ${part.kind}`);
  return found;
}

/** The mask that a part stands on; undefined for what stands alone. */
export const beneathPart = (part: MaskPart): string | undefined => kindOfPart(part).standsOn?.(part);

/** A part on the masks that stand for those that it stood on, by their ids. */
export function onOthers(part: MaskPart, ids: ReadonlyMap<string, string>): MaskPart {
  const beneath = beneathPart(part);
  const other = beneath === undefined ? undefined : ids.get(beneath);
  if (other === undefined) return part;
  return { ...part, ...kindOfPart(part).onOther?.(part, other) } as MaskPart;
}
