import { toEncoded, toLinear } from '../kernels/transfer';
import { defineStep } from './define';
import { exposure } from './fields';

/** Exposure in stops, in linear light: one stop doubles the light. */
export const light = defineStep({
  kind: 'light',
  stage: 'ground',
  fields: { exposure: exposure(-4, 4) },
  point: settings => {
    if (settings.exposure === 0) return () => undefined;
    const gain = 2 ** settings.exposure;
    return c => {
      for (let i = 0; i < 3; i++) c[i] = toEncoded(toLinear(c[i]) * gain);
    };
  },
});
