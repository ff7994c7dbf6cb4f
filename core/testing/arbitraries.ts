import fc from 'fast-check';
import { mixNames } from '../colour/mixes';
import { carry } from '../formats/carried';
import { writeGreyPng } from '../formats/grey-png';
import { partKinds } from '../masks/parts';
import type { Field, Fields } from '../settings/fields';
import { stages } from '../steps/define';
import { stepKinds } from '../steps';
import { readTreatmentFile } from '../treatment/carrying';
import type { Treatment } from '../treatment/treatment';

/** Random valid treatments, made from the descriptions of the step kinds and mask parts. */

/** A small grey picture, as an area carries it. */
const PICTURE = carry(
  writeGreyPng(
    Uint8Array.from({ length: 48 }, (_, i) => (i * 89) % 256),
    8,
    6,
  ),
);

export const unit = fc.double({ min: 0, max: 1, noNaN: true });
export const signed = fc.double({ min: -1, max: 1, noNaN: true });
export const hex = fc.integer({ min: 0, max: 0xffffff }).map(n => `#${n.toString(16).padStart(6, '0')}`);
const rising = fc.tuple(unit, unit, unit, unit).map(r => r.slice().sort((a, b) => a - b));
const stops = fc.array(fc.record({ at: unit, colour: hex }), { minLength: 2, maxLength: 5 });

function valueOf(field: Field, masks: readonly string[]): fc.Arbitrary<unknown> {
  switch (field.type) {
    case 'number':
      return field.unit === 'whole'
        ? fc.integer({ min: field.min, max: field.max })
        : fc.oneof(fc.constant(field.default), fc.double({ min: field.min, max: field.max, noNaN: true }));
    case 'choice':
      return fc.constantFrom(...field.options);
    case 'flag':
      return fc.boolean();
    case 'colour':
      return field.optional ? fc.option(hex) : hex;
    case 'curve':
      return fc
        .uniqueArray(fc.tuple(unit, unit), { minLength: 2, maxLength: 6, selector: p => p[0] })
        .map(points => points.slice().sort((a, b) => a[0] - b[0]));
    case 'stops':
      return stops;
    case 'pigment':
      return fc.oneof(
        fc.record({ kind: fc.constant('flat'), colour: hex }),
        fc.record({ kind: fc.constant('ramp'), stops }),
      );
    case 'reference':
      return fc.constantFrom(null, 'table');
    case 'list':
      return fc.array(settingsOf(field.fields, masks), { maxLength: 3 });
    case 'group':
      return settingsOf(field.fields, masks);
    case 'position':
      return fc.tuple(unit, unit);
    case 'radii':
      return fc.tuple(unit, unit);
    case 'range':
      return rising;
    case 'strokes':
      return fc.array(strokeUpTo(0.3, 4), { maxLength: 3 });
    case 'mask':
      return fc.constantFrom(...masks);
    case 'picture':
      return fc.constant(PICTURE);
  }
}

/** A stroke of the brush, not wider than `widest` (a fraction of the long edge). */
export const strokeUpTo = (widest: number, mostPoints: number) =>
  fc.record({
    points: fc.array(fc.tuple(unit, unit, unit), { minLength: 1, maxLength: mostPoints }),
    radius: fc.double({ min: 0.005, max: widest, noNaN: true }),
    hardness: unit,
    flow: fc.double({ min: 0.05, max: 1, noNaN: true }),
    erase: fc.boolean(),
    keepEdges: fc.oneof(fc.constant(0), unit),
  });

export function settingsOf(
  fields: Fields,
  masks: readonly string[] = [],
): fc.Arbitrary<Record<string, unknown>> {
  return fc.record(Object.fromEntries(Object.entries(fields).map(([name, f]) => [name, valueOf(f, masks)])));
}

const laidOn = fc.record({
  strength: fc.oneof(fc.constant(1), unit),
  mix: fc.constantFrom(...mixNames),
  enabled: fc.boolean(),
  reach: fc.record({ own: rising, beneath: rising }),
});

/** A place among alternatives: of a tray, or of one that falls apart as it is read. */
const inTray = fc.record({ tray: fc.constantFrom('a1', 'a2'), aside: fc.boolean() });

/** A step of some kinds, laid on plainly or in any way. */
export const stepOf = (kinds: readonly string[], masks: readonly string[] = []) =>
  fc
    .constantFrom(...stepKinds.filter(k => kinds.includes(k.kind)))
    .chain(k =>
      fc.record({
        kind: fc.constant(k.kind as string),
        settings: settingsOf(k.fields),
        how: fc.option(laidOn, { nil: {} as object }),
        mask: masks.length ? fc.option(fc.constantFrom(...masks)) : fc.constant(null),
        look: fc.option(link, { nil: undefined, freq: 4 }),
        alternative: fc.option(inTray, { nil: undefined, freq: 3 }),
      }),
    )
    .map(({ how, ...step }) => ({ ...step, ...how }));

/** A part of any kind that stands alone, or on one of some masks. */
const partOf = (others: readonly string[]): fc.Arbitrary<object> =>
  fc
    .constantFrom(...partKinds.filter(({ fields }) => isAlone(fields) || others.length > 0))
    .chain(({ kind, fields }) =>
      fc.record({ kind: fc.constant(kind as string), settings: settingsOf(fields, others) }),
    )
    .map(({ kind, settings }) => ({ kind, ...settings }));

const isAlone = (fields: Fields) => Object.values(fields).every(f => f.type !== 'mask');

const maskOf = (id: string, others: readonly string[]) =>
  fc.record({
    id: fc.constant(id),
    invert: fc.boolean(),
    feather: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 0.1, noNaN: true })),
    grow: fc.oneof(fc.constant(0), fc.double({ min: -0.05, max: 0.05, noNaN: true })),
    refine: fc.oneof(fc.constant(0), unit),
    fine: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 0.05, noNaN: true })),
    fringe: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 0.02, noNaN: true })),
    parts: fc.array(
      fc
        .tuple(partOf(others), fc.constantFrom('add', 'subtract', 'intersect'))
        .map(([p, op]) => ({ ...p, op })),
      { maxLength: 4 },
    ),
  });

export const anyFrame = fc.record({
  quarterTurns: fc.integer({ min: 0, max: 3 }),
  mirror: fc.boolean(),
  angle: fc.oneof(fc.constant(0), fc.double({ min: -45, max: 45, noNaN: true })),
  keystone: fc.record({
    vertical: fc.oneof(fc.constant(0), signed),
    horizontal: fc.oneof(fc.constant(0), signed),
  }),
  crop: fc.tuple(unit, unit, unit, unit).map(([x, y, w, h]) => ({
    x: x * 0.5,
    y: y * 0.5,
    width: 0.1 + w * 0.4,
    height: 0.1 + h * 0.4,
  })),
});

/** A link to a look that a series shares. */
const link = fc.record({
  id: fc.constantFrom('one', 'two'),
  revision: fc.integer({ min: 1, max: 9 }),
  step: fc.constantFrom('r1-1', 'r1-2', 'r2-1'),
  changed: fc.subarray(['hue', 'step.mask', 'step.place', 'step.strength']),
});

/** A small colour table: a warm one that also bends contrast. */
export const TABLE = [
  'TITLE "Warm"',
  'LUT_3D_SIZE 2',
  '0.05 0.02 0',
  '1 0 0.1',
  '0 0.9 0',
  '1 1 0.2',
  '0 0 0.8',
  '1 0.1 0.9',
  '0.1 1 1',
  '1 1 0.95',
].join('\n');

interface Wanted {
  kinds?: readonly string[];
  masks?: boolean;
  frame?: boolean;
  most?: number;
}

const everyKind = stepKinds.map(k => k.kind as string);

/** A random valid treatment, read, its steps in working order. */
export function anyTreatment({
  kinds = everyKind,
  masks = true,
  frame = true,
  most = 5,
}: Wanted = {}): fc.Arbitrary<Treatment> {
  const ids = masks ? ['m1', 'm2'] : [];
  return fc
    .record({
      strength: fc.oneof(fc.constant(1), unit),
      steps: fc.array(stepOf(kinds, ids), { maxLength: most }),
      masks: masks ? fc.tuple(maskOf('m1', []), maskOf('m2', ['m1'])) : fc.constant([]),
      frame: frame ? fc.option(anyFrame, { nil: undefined }) : fc.constant(undefined),
      together: fc.option(
        fc.record({ from: fc.nat(3), count: fc.integer({ min: 1, max: 3 }), strength: unit }),
      ),
    })
    .map(({ steps, together, ...rest }) => {
      const stageOf = (kind: string) => stages.indexOf(stepKinds.find(k => k.kind === kind)!.stage);
      const inOrder = steps.slice().sort((a, b) => stageOf(a.kind) - stageOf(b.kind));
      return readTreatmentFile(
        JSON.parse(
          JSON.stringify({
            format: 'lampwash-treatment',
            version: 1,
            steps: inOrder.map((s, i) =>
              together && i >= together.from && i < together.from + together.count
                ? { ...s, group: 'g1' }
                : s,
            ),
            groups: together ? [{ id: 'g1', name: 'Together', strength: together.strength }] : [],
            tables: { table: TABLE },
            ...rest,
          }),
        ),
      );
    });
}
