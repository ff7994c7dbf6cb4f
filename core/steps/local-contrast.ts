import { defineStep } from './define';
import { detailField } from './detail';
import { amount } from '../settings/fields';

/** Local contrast up or down at a coarse, a medium and a fine scale, without halos; haze taken away or laid on. */
export const localContrast = defineStep({
  kind: 'local-contrast',
  stage: 'ground',
  face: 'texture',
  fields: { coarse: amount(), medium: amount(), fine: amount(), haze: amount() },
  point: () => () => undefined,
  field: s => detailField(s),
});
