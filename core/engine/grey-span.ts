import type { Table } from './bake';

/** Steps of grey to which a ramp's ends are widened, so that it is not baked anew for every small change. */
const SPAN_STEP = 0.5;
/** Greys that a ramp holds where what comes in is not known: beyond it steps run exactly. */
export const WIDE_SPAN: [number, number] = [-0.5, 1.5];

const spans = new WeakMap<Float32Array, [number, number]>();

/** The greys that a grid leaves, at least 0..1, widened to whole steps. */
export function greySpan(table: Table): [number, number] {
  if (table.kind !== 'grid') return WIDE_SPAN;
  const { values } = table.grid;
  let span = spans.get(values);
  if (!span) {
    let from = 0;
    let to = 1;
    for (let i = 0; i < values.length; i++) {
      if (values[i] < from) from = values[i];
      if (values[i] > to) to = values[i];
    }
    span = [Math.floor(from / SPAN_STEP) * SPAN_STEP, Math.ceil(to / SPAN_STEP) * SPAN_STEP];
    spans.set(values, span);
  }
  return span;
}
