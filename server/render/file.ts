import { encodePicture, withProfile, type FileSettings } from '../pictures/encode';
import { formatNamed } from '../pictures/formats';
import { bordered, type Caption } from './bordered';
import { renderLayered } from './layered';
import type { Renderer, RenderJob } from './renderer';

/** A finished file, and what it says of itself. */
export interface Made {
  file: Buffer;
  note: string | null;
}

/** What is said in a file beside its pixels. */
export interface Said {
  /** Dots an inch, for formats that are told it as they are written. */
  dpi?: number;
  /** What stands beneath the picture, where that is wanted. */
  caption?: Caption;
}

/** Renders a picture to a finished file: in layers where its format holds them, strip by strip where it allows, else whole. */
export async function renderFile(
  renderer: Renderer,
  job: Omit<RenderJob, 'bits' | 'profile'>,
  settings: FileSettings,
  { dpi, caption = { title: '', rights: '' } }: Said = {},
): Promise<Made> {
  const { inStrips, layers } = formatNamed(settings.format);
  if (layers) {
    const made = await renderLayered(renderer, job, dpi);
    const count = made.layers === 1 ? 'One layer' : `${made.layers} layers, together`;
    return {
      file: made.file,
      note: `${count} ${made.mean.toFixed(1)} of 255 from the picture, ${Math.round(made.most)} at most`,
    };
  }
  const { border, profile } = settings;
  const isBordered = border !== undefined && border.width > 0;
  const whole = { ...job, bits: settings.bits === 8 ? 8 : 16, profile: settings.profile } as const;
  if (!isBordered && inStrips?.(settings)) {
    return { file: await withProfile(await renderer.renderJpeg(whole, settings), settings), note: null };
  }
  const rendered = await renderer.render(whole);
  const { codes, width, height } = isBordered
    ? await bordered(rendered, border, job.treatment, { profile, bits: whole.bits }, caption)
    : rendered;
  return { file: await encodePicture(codes, width, height, settings), note: null };
}
