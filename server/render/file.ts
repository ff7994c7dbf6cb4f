import { encodePicture, withProfile, type FileSettings } from '../pictures/encode';
import { formatNamed } from '../pictures/formats';
import type { Renderer, RenderJob } from './renderer';

/** Renders a picture to a finished file: strip by strip where its format allows, else whole. */
export async function renderFile(
  renderer: Renderer,
  job: RenderJob,
  settings: FileSettings,
): Promise<Buffer> {
  const { inStrips } = formatNamed(settings.format);
  const whole = { ...job, bits: settings.bits, profile: settings.profile };
  if (inStrips) return withProfile(await renderer.renderJpeg(whole, settings.quality), settings);
  const { codes, width, height } = await renderer.render(whole);
  return encodePicture(codes, width, height, settings);
}
