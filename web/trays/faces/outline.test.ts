import { expect, it } from 'vitest';
import { addArea, addPart, addStroke, areaOf } from '../../../core/treatment/areas';
import { bareTreatment } from '../../../core/treatment/treatment';
import { outlineOf } from './outline';

const room = { width: 92, height: 52 };

it('the shapes of an area lie where they lie on the photograph; those of other areas in their places', () => {
  const { treatment, area } = addArea(bareTreatment(), 'Door');
  const stroke = { radius: 0.05, hardness: 1, flow: 1, erase: false, keepEdges: 0 };
  const points = Array.from({ length: 500 }, (_, i): [number, number, number] => [0.25 + i / 1000, 0.5, 1]);
  const painted = addStroke(treatment, area, { ...stroke, points });
  const dotted = addStroke(painted, area, { ...stroke, points: [[0.5, 0.9, 1]], erase: true });
  const shapes = outlineOf(areaOf(dotted, area)!, dotted.masks, room, 1.5);
  expect(shapes).toHaveLength(2);
  const [line, dot] = shapes;
  if (line.kind !== 'line' || dot.kind !== 'line') throw new Error('not lines');
  const places = line.points.split(' ');
  expect(places.length).toBeLessThanOrEqual(42);
  expect([places[0], places.at(-1)]).toEqual(['23.0,26.0', '68.9,26.0']);
  expect(line.width).toBeCloseTo(9.2, 1);
  expect([line.takes, dot.takes]).toEqual([false, true]);

  const made = addArea(dotted, 'All');
  const of = addPart(made.treatment, made.area, { kind: 'mask', op: 'add', mask: area });
  expect(outlineOf(areaOf(of, made.area)!, of.masks, room, 1.5)).toEqual(shapes);
  expect(outlineOf(areaOf(treatment, area)!, treatment.masks, room, 1.5)).toEqual([]);
});
