import { encodePicture, withProfile, type FileSettings } from '../pictures/encode';
import { formatNamed } from '../pictures/formats';
import type { Renderer, RenderJob } from './renderer';

/** Renders a picture to a finished file: strip by strip where its format allows, else whole. */
export async function renderFile(
  renderer: Renderer,
  job: Omit<RenderJob, 'bits' | 'profile'>,
  settings: FileSettings,
): Promise<Buffer> {
  const { inStrips } = formatNamed(settings.format);
  const whole = { ...job, bits: settings.bits === 8 ? 8 : 16, profile: settings.profile } as const;
  if (inStrips?.(settings)) return withProfile(await renderer.renderJpeg(whole, settings), settings);
  const { codes, width, height } = await renderer.render(whole);
  return encodePicture(codes, width, height, settings);
}
