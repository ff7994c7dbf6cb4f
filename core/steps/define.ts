import type { z } from 'zod';
import type { Triple } from '../colour/oklab';
import { defaultsOf, schemaOf, type Fields, type SettingsOf } from './fields';

/** The five groups of the tray line, in working order. */
export const stages = ['ground', 'mono', 'tone', 'colour', 'finish'] as const;
export type Stage = (typeof stages)[number];

/** Changes one encoded colour in place. Must be free of state: the same colour gives the same result. */
export type Point = (colour: Triple) => void;

export interface StepDefinition<F extends Fields = Fields, K extends string = string> {
  kind: K;
  /** Where the tray usually lies. */
  stage: Stage;
  fields: F;
  /** What the step makes of a colour that depends on nothing but that colour. */
  point: (settings: SettingsOf<F>) => Point;
  /** True where the result is grey (R = G = B) whatever comes in. */
  leavesGrey?: boolean;
}

export interface StepKind<F extends Fields = Fields, K extends string = string> extends StepDefinition<F, K> {
  settings: z.ZodType<SettingsOf<F>>;
  defaults: SettingsOf<F>;
}

/** Declares a step kind: its settings, their ranges and defaults, and what it computes. */
export function defineStep<const K extends string, F extends Fields>(
  definition: StepDefinition<F, K>,
): StepKind<F, K> {
  return { ...definition, settings: schemaOf(definition.fields), defaults: defaultsOf(definition.fields) };
}
