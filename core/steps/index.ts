import { baths } from './baths';
import { colourBands } from './colour-bands';
import { colourTable } from './colour-table';
import { curve } from './curve';
import type { StepKind } from './define';
import { filter } from './filter';
import { glow } from './glow';
import { gradientMap } from './gradient-map';
import { grain } from './grain';
import { inks } from './inks';
import { keepColour } from './keep-colour';
import { levels } from './levels';
import { light } from './light';
import { localContrast } from './local-contrast';
import { localLight } from './local-light';
import { mono } from './mono';
import { saturation } from './saturation';
import { sharpen } from './sharpen';
import { splitTone } from './split-tone';
import { threeWayBalance } from './three-way-balance';
import { tint } from './tint';
import { vignette } from './vignette';
import { wash } from './wash';
import { whiteBalance } from './white-balance';

/** Every step kind, in the order in which they are offered. Adding one is a file and a line here. */
export const stepKinds = [
  light,
  whiteBalance,
  localContrast,
  saturation,
  colourBands,
  inks,
  threeWayBalance,
  mono,
  curve,
  levels,
  tint,
  splitTone,
  baths,
  gradientMap,
  filter,
  colourTable,
  wash,
  keepColour,
  localLight,
  glow,
  sharpen,
  vignette,
  grain,
] as const;

export type AnyStepKind = (typeof stepKinds)[number];
export type Kind = AnyStepKind['kind'];
type KindNamed<K extends Kind> = Extract<AnyStepKind, { kind: K }>;
export type Settings<K extends Kind = Kind> = K extends Kind ? KindNamed<K>['defaults'] : never;

// eslint-disable-next-line no-restricted-syntax -- one list of kinds of different settings; each reads its own
const byName = new Map<string, StepKind>(stepKinds.map(k => [k.kind, k as unknown as StepKind]));

/** The definition of a kind, or undefined where the name is not known. */
export function stepKind(kind: string): StepKind | undefined {
  return byName.get(kind);
}
