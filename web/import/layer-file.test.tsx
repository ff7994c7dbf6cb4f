import { strToU8, zipSync, type Zippable } from 'fflate';
import { describe, expect, it } from 'vitest';
import { readGreyPng } from '../../core/formats/grey-png';
import { readLayers } from './layer-file';

/** Files with layers as any program may pack them, and as nobody should. */

const stack = (layers: string, size = 'w="8" h="6"') =>
  strToU8(`<?xml version="1.0"?><image ${size}><stack>${layers}</stack></image>`);

/** A PNG of a colour, opaque, of a size. */
async function picture(width: number, height: number): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#c33';
  context.fillRect(0, 0, width, height);
  return new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer());
}

const packed = (files: Zippable, level: 0 | 9 = 9) =>
  new Blob([zipSync(files, { level }) as Uint8Array<ArrayBuffer>]);

describe('a file with layers', () => {
  it.each([0, 9] as const)('is read however it is packed (%i)', async level => {
    const told: number[] = [];
    const layers = '<layer name="Door" src="data/door.png" x="2" y="1"/><layer src="data/all.png"/>';
    const file = packed(
      {
        'stack.xml': stack(layers),
        'data/door.png': await picture(3, 2),
        'data/all.png': await picture(8, 6),
      },
      level,
    );
    const read = await readLayers(file, done => told.push(done));
    expect([read.width, read.height, read.areas.map(a => a.name)]).toEqual([8, 6, ['Door']]);
    const { values } = readGreyPng(read.areas[0].png);
    expect([...values].map((v, i) => (v ? i : -1)).filter(i => i >= 0)).toEqual([10, 11, 12, 18, 19, 20]);
    expect(told.at(-1)).toBe(1);
  });

  it('that is not one, or is cut off or broken, says so', async () => {
    const whole = packed({
      'stack.xml': stack('<layer src="data/a.png"/>'),
      'data/a.png': await picture(900, 900),
    });
    await expect(readLayers(new Blob(['no zip at all']))).rejects.toThrow('no OpenRaster file');
    await expect(readLayers(packed({ 'a.txt': strToU8('a') }))).rejects.toThrow('no list of layers in it');
    await expect(readLayers(whole.slice(0, whole.size / 2))).rejects.toThrow(/ends too early|broken/);
    await expect(readLayers(packed({ 'stack.xml': strToU8('<image') }))).rejects.toThrow('cannot be read');
    await expect(readLayers(packed({ 'stack.xml': stack('', '') }))).rejects.toThrow('how large it is');
    await expect(readLayers(packed({ 'stack.xml': stack('', 'w="99999" h="99999"') }))).rejects.toThrow(
      'more than 200 megapixels',
    );
    const wrong = { 'stack.xml': stack('<layer src="data/a.png"/>'), 'data/a.png': strToU8('x'.repeat(99)) };
    await expect(readLayers(packed(wrong))).rejects.toThrow('data/a.png in it is no PNG');
  });

  it('that becomes too large is refused by name', async () => {
    const long = { 'stack.xml': strToU8(`<image>${' '.repeat(3 * 2 ** 20)}</image>`) };
    await expect(readLayers(packed(long))).rejects.toThrow('list of layers is longer');
    const many = stack('<layer src="data/a.png"/>'.repeat(300));
    await expect(readLayers(packed({ 'stack.xml': many }))).rejects.toThrow('more than 200 layers');
    const vast = { 'stack.xml': stack('<layer src="data/a.png"/>'), 'data/a.png': new Uint8Array(2 ** 24) };
    const head = new Uint8Array(33);
    head.set([
      0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0, 1, 0, 0, 0, 1, 0, 0,
    ]);
    vast['data/a.png'].set(head);
    await expect(readLayers(packed(vast))).rejects.toThrow('data/a.png in it is too large');
  });
});
