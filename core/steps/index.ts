import type { StepKind } from './define';
import { light } from './light';
import { mono } from './mono';
import { splitTone } from './split-tone';

/** Every step kind, in the order in which they are offered. Adding one is a file and a line here. */
export const stepKinds = [light, mono, splitTone] as const;

export type AnyStepKind = (typeof stepKinds)[number];
export type Kind = AnyStepKind['kind'];
type KindNamed<K extends Kind> = Extract<AnyStepKind, { kind: K }>;
export type Settings<K extends Kind = Kind> = K extends Kind ? KindNamed<K>['defaults'] : never;

const byName = new Map<string, StepKind>(stepKinds.map(k => [k.kind, k as unknown as StepKind]));

/** The definition of a kind, or undefined where the name is not known. */
export function stepKind(kind: string): StepKind | undefined {
  return byName.get(kind);
}
