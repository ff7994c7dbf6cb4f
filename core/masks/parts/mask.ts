import { otherMask } from '../../settings/fields';
import { definePart } from '../define';

/** Another mask of the treatment. */
export const mask = definePart({
  kind: 'mask',
  fields: { mask: otherMask() },
  reads: 'place',
  standsOn: ({ mask }) => mask,
  onOther: (settings, mask) => ({ ...settings, mask }),
  lay: ({ mask }, { maskOn }) => maskOn(mask).slice(),
  extent: ({ mask }, _of, extentOf) => extentOf(mask),
});
