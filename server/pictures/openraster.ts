import { buffer } from 'node:stream/consumers';
import type { LayerMode } from '../../core/engine/layers';

/**
 * Layers in one file that programs for pictures open. Source: OpenRaster 0.0.5: the baseline specification, the layer stack, the file
 * layout.
 */

export interface StackPicture {
  type: 'picture';
  name: string;
  mode: LayerMode;
  /** 0..1 */
  opacity: number;
  /** The whole picture's size, with transparency. */
  png: Buffer;
}

export interface StackGroup {
  type: 'group';
  name: string;
  opacity: number;
  /** The lowest first. */
  layers: readonly (StackPicture | StackGroup)[];
}

export interface Stack {
  width: number;
  height: number;
  /** Dots an inch, where it is said. */
  dpi?: number;
  /** The lowest first. */
  layers: readonly (StackPicture | StackGroup)[];
  /** All of it put together. */
  merged: Buffer;
  /** The same within 256 pixels. */
  thumbnail: Buffer;
}

export const MEDIA_TYPE = 'image/openraster';
/** The long edge of the thumbnail at most. */
export const THUMBNAIL = 256;

const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** A text as an attribute has it; what XML cannot hold is left out. */
const attribute = (text: string) =>
  text.replace(/[\p{Cc}\p{Cs}\ufffe\uffff]/gu, '').replace(/[&<>"]/g, c => entities[c]);

const operator = (mode: LayerMode) => `svg:${mode === 'normal' ? 'src-over' : mode}`;

/** Writes a stack of layers. */
export async function writeOpenRaster(stack: Stack): Promise<Buffer> {
  const { width, height, dpi, layers, merged, thumbnail } = stack;
  const pictures: Buffer[] = [];
  const written = (layer: StackPicture | StackGroup): string => {
    const common = `name="${attribute(layer.name)}" opacity="${Number(layer.opacity.toFixed(4))}" visibility="visible"`;
    if (layer.type === 'group') {
      return `<stack ${common} composite-op="svg:src-over" isolation="isolate">\n${listed(layer.layers)}</stack>\n`;
    }
    pictures.push(layer.png);
    const source = `data/layer${pictures.length}.png`;
    return `<layer ${common} composite-op="${operator(layer.mode)}" src="${source}" x="0" y="0"/>\n`;
  };
  // The file lists them from the uppermost.
  const listed = (of: readonly (StackPicture | StackGroup)[]): string =>
    of.toReversed().map(written).join('');
  const resolution = dpi ? ` xres="${Math.round(dpi)}" yres="${Math.round(dpi)}"` : '';
  const xml =
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    `<image version="0.0.5" w="${width}" h="${height}"${resolution}>\n<stack>\n${listed(layers)}</stack>\n</image>\n`;

  // Only here, so that what makes other files starts without it.
  const { ZipFile } = await import('yazl');
  const zip = new ZipFile();
  // What it is stands first, as it is, so that the file's first bytes tell it.
  const add = (bytes: Buffer, name: string, compress = false) => zip.addBuffer(bytes, name, { compress });
  add(Buffer.from(MEDIA_TYPE), 'mimetype');
  add(Buffer.from(xml), 'stack.xml', true);
  pictures.forEach((png, i) => add(png, `data/layer${i + 1}.png`));
  add(merged, 'mergedimage.png');
  add(thumbnail, 'Thumbnails/thumbnail.png');
  zip.end();
  return buffer(zip.outputStream);
}
