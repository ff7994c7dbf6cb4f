import type { Stage } from '../../core/steps/define';

/**
 * What stands beside the picture: the chosen step, or what is done in its place. One at a time. A step is added to a stage, or
 * beside another one, as its alternative.
 */
export type Side =
  | { what: 'step' }
  | { what: 'frame' }
  | { what: 'looks' }
  | { what: 'tint' }
  | { what: 'history' }
  | { what: 'methods' }
  | { what: 'method'; method: string; page: string }
  | { what: 'add'; stage: Stage; beside?: string };

export const STEP: Side = { what: 'step' };

const isSame = (a: Side, b: Side) =>
  a.what === b.what &&
  (a.what === 'add' ? b.what === 'add' && a.stage === b.stage && a.beside === b.beside : true);

/** What is there after a press on the way to something: that, or the step again where it was there already. */
export const toggled = (now: Side, pressed: Side): Side => (isSame(now, pressed) ? STEP : pressed);
