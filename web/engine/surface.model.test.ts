import fc from 'fast-check';
import { MessageChannel } from 'node:worker_threads';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { createPlanner } from '../../core/engine/plan';
import { render8 } from '../../core/engine/render';
import { createSurveyor } from '../../core/engine/survey';
import { sightFor } from '../../core/testing/pictures';
import { asPhotographed } from '../../core/frame/crop';
import { geometryOf, sizeAt } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import { parseTreatment } from '../../core/treatment/schema';
import type * as ScreenModule from './screen';
import type { Done, Piece, ShowRequest, TileState } from './screen';
import type * as SurfaceModule from './surface';
import { place, printOf, type View } from './view';

/**
 * The page's surface and the worker behind it, without a browser: whatever is asked for in whatever order, given up, let go
 * by the page, the picture that is there in the end is that of the last treatment, to the last bit.
 */

const picture = { id: 'p', width: 700, height: 520, grey: false };
const viewport = { width: 640, height: 500 };
const MARGIN = 20;

/** The photograph at a long edge: smooth colour with an edge in it. */
function photographAt(longEdge: number) {
  const { width, height } = sizeAt(picture, longEdge);
  const codes = new Uint16Array(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [(i % width) / width, Math.floor(i / width) / height];
    codes.set([65535 * x, 65535 * y, Math.hypot(x - 0.5, y - 0.5) < 0.3 ? 50000 : 9000], i * 3);
  }
  return { codes, width, height, x: 0, y: 0 };
}

class Image {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
  constructor(...of: [Uint8ClampedArray, number, number] | [number, number]) {
    [this.width, this.height] = of.length === 3 ? [of[1], of[2]] : of;
    this.data = of.length === 3 ? of[0] : new Uint8ClampedArray(this.width * this.height * 4);
  }
}

/** As much of a canvas as is used here, drawing without smoothing. */
class Canvas {
  private pixels: Image;
  private clip = { x: 0, y: 0, width: 1e9, height: 1e9 };
  constructor(width = 1, height = 1) {
    this.pixels = new Image(width, height);
  }
  get width() {
    return this.pixels.width;
  }
  set width(width: number) {
    this.pixels = new Image(width, this.height);
  }
  get height() {
    return this.pixels.height;
  }
  set height(height: number) {
    this.pixels = new Image(this.width, height);
  }
  getContext() {
    return {
      putImageData: (image: Image, x: number, y: number) => {
        for (let row = 0; row < image.height; row++) {
          const from = image.data.subarray(row * image.width * 4, (row + 1) * image.width * 4);
          this.pixels.data.set(from, ((y + row) * this.width + x) * 4);
        }
      },
      getImageData: () => this.pixels,
      clearRect: () => this.pixels.data.fill(0),
      drawImage: (from: Canvas, x: number, y: number, width: number, height: number) => {
        const { clip, pixels } = this;
        for (let v = Math.max(y, clip.y); v < Math.min(y + height, clip.y + clip.height, this.height); v++) {
          for (let u = Math.max(x, clip.x); u < Math.min(x + width, clip.x + clip.width, this.width); u++) {
            const i = Math.floor(((u - x) * from.width) / width);
            const j = Math.floor(((v - y) * from.height) / height);
            const at = (j * from.width + i) * 4;
            pixels.data.set(from.pixels.data.subarray(at, at + 4), (v * this.width + u) * 4);
          }
        }
      },
      rect: (x: number, y: number, width: number, height: number) => {
        this.clip = { x, y, width, height };
      },
      restore: () => {
        this.clip = { x: 0, y: 0, width: 1e9, height: 1e9 };
      },
      save: () => undefined,
      beginPath: () => undefined,
      clip: () => undefined,
    };
  }
}

let screen: typeof ScreenModule;
let module: typeof SurfaceModule;

beforeAll(async () => {
  vi.stubGlobal('self', globalThis);
  vi.stubGlobal('ImageData', Image);
  vi.stubGlobal('OffscreenCanvas', Canvas);
  vi.stubGlobal('fetch', (address: string) => {
    const [edge, column, row] = address.split('/pixels/')[1].split('/').map(Number);
    const { codes, width, height } = photographAt(edge);
    const [x, y] = [column * 512, row * 512];
    const [w, h] = [Math.min(512, width - x), Math.min(512, height - y)];
    const out = new Uint16Array(w * h * 3);
    for (let j = 0; j < h; j++) {
      const from = ((y + j) * width + x) * 3;
      out.set(codes.subarray(from, from + w * 3), j * w * 3);
    }
    return Promise.resolve({ ok: true, status: 200, arrayBuffer: () => Promise.resolve(out.buffer) });
  });
  screen = await import('./screen');
  module = await import('./surface');
});
afterAll(() => vi.unstubAllGlobals());

const treatmentOf = (strength: number, x: number, light: number, sharp: boolean): Treatment =>
  parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    masks: [{ id: 'm', parts: [{ kind: 'oval', centre: [x, 0.4], radii: [0.12, 0.1], feather: 0.4 }] }],
    steps: [
      { id: 'l', kind: 'light', settings: { exposure: light } },
      { id: 'k', kind: 'mono' },
      {
        id: 'w',
        kind: 'wash',
        mask: 'm',
        strength,
        settings: { pigment: { kind: 'flat', colour: '#b5793c' } },
      },
      ...(sharp ? [{ id: 's', kind: 'sharpen', settings: { amount: 1, radius: 0.002 } }] : []),
    ],
  });

/** What the surface should show: the treatment rendered whole. */
function wholly(treatment: Treatment, longEdge: number): Uint8ClampedArray {
  const source = photographAt(longEdge);
  const geometry = geometryOf(source, treatment.frame);
  const plan = createPlanner()(treatment, { grey: false, pixels: source.width * source.height });
  const surveys = createSurveyor(source.codes, geometry)(plan, sightFor(plan, source));
  const out = new Uint8ClampedArray(source.width * source.height * 4);
  render8(plan, source, out, 4, { grey: false, geometry, surveys });
  return out;
}

const step = fc.oneof(
  fc.record({ does: fc.constant('wash' as const), to: fc.constantFrom(0.2, 0.5, 0.9) }),
  fc.record({ does: fc.constant('move' as const), to: fc.constantFrom(0.2, 0.5, 0.8) }),
  fc.record({ does: fc.constant('light' as const), to: fc.constantFrom(0, 0.4) }),
  fc.record({ does: fc.constant('sharpen' as const), to: fc.constantFrom(0, 1) }),
  fc.record({ does: fc.constant('forget' as const), to: fc.nat(20) }),
  fc.record({ does: fc.constant('drop' as const), to: fc.nat(6) }),
);

describe('the surface', () => {
  it('shows the last treatment to the last bit, whatever came before, was given up or let go', async () => {
    let views = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.array(step, { minLength: 1, maxLength: 9 }),
        fc.record({ hurried: fc.boolean(), interrupted: fc.boolean(), prepared: fc.boolean() }),
        async (steps, { hurried, interrupted, prepared }) => {
          const { port1, port2 } = new MessageChannel();
          const canvas = new Canvas();
          // eslint-disable-next-line no-restricted-syntax -- as much of the browser's own as is used here
          const surface = new module.Surface(canvas as never, piece => port1.postMessage(piece));
          const waiting = new Map<number, () => void>();
          /** Pieces that are lost on their way, by their numbers. */
          const dropping = new Set<number>();
          let pieces = 0;
          port1.on('message', (data: Piece | Done) => {
            if ('done' in data) waiting.get(data.done)?.();
            else if (dropping.delete(pieces++)) return;
            else surface.take(data);
          });
          const id = ++views;
          const newest = new Int32Array(new SharedArrayBuffer(4));
          // eslint-disable-next-line no-restricted-syntax -- as much of the browser's own as is used here
          screen.attach(id, port2 as never, newest, 0);
          const view: View = { mode: 'fit' };
          const at = place(printOf(picture, asPhotographed), viewport, view, MARGIN);
          surface.hang({ picture, frame: asPhotographed, at, viewport });

          let serial = 0;
          const show = async (
            treatment: Treatment,
            content: number,
            draft: boolean,
            isLast = false,
            renew?: TileState[],
          ) => {
            const work = ++serial;
            const sent = new Promise<void>(done => waiting.set(work, done));
            const request: ShowRequest = {
              serial,
              content,
              picture,
              treatment,
              view,
              viewport,
              margin: MARGIN,
              pointer: null,
              marking: null,
              draft,
              renew,
            };
            newest[0] = serial;
            // A fine picture is given up while its tables are baked, as if the page had asked for another.
            if (!draft && interrupted && !isLast) newest[0]++;
            if (prepared) {
              const tables = await screen.prepare(id, request);
              if (tables) screen.learn(tables);
            }
            const shown = await screen.show(id, request, { which: 0, of: 1, work });
            await sent;
            if (shown?.fine) surface.settle(content);
            return shown;
          };

          let [strength, x, light, sharp] = [0.6, 0.3, 0.2, false];
          let content = 0;
          const begun: Promise<unknown>[] = [];
          for (const { does, to } of steps) {
            if (does === 'forget') {
              // The page lets tiles go, as it does when it has too many.
              // eslint-disable-next-line no-restricted-syntax -- what it keeps is its own affair but for here
              const { tiles } = surface as unknown as { tiles: Map<string, unknown> };
              const name = [...tiles.keys()][to % Math.max(1, tiles.size)];
              if (name) tiles.delete(name);
              continue;
            }
            if (does === 'drop') {
              dropping.add(pieces + to);
              continue;
            }
            if (does === 'wash') strength = to;
            else if (does === 'move') x = to;
            else if (does === 'light') light = to;
            else sharp = to === 1;
            content++;
            const treatment = treatmentOf(strength, x, light, sharp);
            await show(treatment, content, true);
            // A fine picture is begun, and given up where the next change comes before its end.
            const fine = show(treatment, content, false);
            if (hurried) begun.push(fine);
            else await fine;
          }
          await Promise.all(begun);
          const last = treatmentOf(strength, x, light, sharp);
          const shown = await show(last, ++content, false, true);
          dropping.clear();
          // Page and worker agree, or the tiles that differ are made anew.
          const lost = surface.lost(shown?.tiles ?? []);
          if (lost.tiles.length) await show(last, content, false, true, lost.tiles);
          // What was missing is sent after it was asked for.
          await new Promise(done => setTimeout(done, 30));
          surface.settle(content);
          const wanted = wholly(last, at.longEdge);
          const { data } = canvas.getContext().getImageData();
          let wrong = 0;
          for (let row = 0; row < at.height; row++) {
            for (let i = 0; i < at.width * 4; i++) {
              const seen = data[((at.y + row) * viewport.width + at.x) * 4 + i];
              if (seen !== wanted[row * at.width * 4 + i]) wrong++;
            }
          }
          expect(wrong).toBe(0);
          screen.detach(id);
          surface.close();
          port1.close();
        },
      ),
      { numRuns: 20 },
    );
  }, 120_000);
});
