import { fileURLToPath } from 'node:url';
import { surveyEdge } from '../../core/engine/survey';
import { SIGHT_EDGE } from '../../core/masks/finding/sight';
import { framedSize, photographEdge, sizeAt } from '../../core/frame/geometry';
import type { Decoded, resizePixels } from '../pictures/decode';
import type { FileSettings } from '../pictures/encode';
import { PictureError, type PictureFacts } from '../pictures/inspect';
import { smaller } from '../pictures/store';
import { renderFile } from '../render/file';
import { Renderer } from '../render/renderer';
import { CommandError } from './command';
import { treatmentAt } from './treatment-file';

/** What is to be rendered of a picture that is being decoded. */
interface Asked {
  /** Its path, for what is wrong with it. */
  picture: string;
  inspecting: Promise<PictureFacts>;
  decoding: Promise<Decoded>;
  treatmentPath: string;
  /** Pixels; null for those of the picture. */
  longEdge: number | null;
  settings: FileSettings;
}

/** The finished file of a treatment of a picture. Throws a CommandError. */
export async function rendered(asked: Asked): Promise<Buffer> {
  const { picture, inspecting, decoding, treatmentPath, longEdge, settings } = asked;
  const renderer = new Renderer(fileURLToPath(new URL('./band-worker.mjs', import.meta.url)), { ready: 2 });
  const treatment = await treatmentAt(treatmentPath);
  try {
    const facts = await inspecting;
    const edge = photographEdge(facts, treatment.frame, longEdge ?? Math.max(facts.width, facts.height));
    const size = framedSize(sizeAt(facts, edge), treatment.frame);
    renderer.bakeAhead(treatment, facts.grey, size.width * size.height);
    const full = await decoding;
    if (full.damage) throw new PictureError(`is damaged: ${full.damage}`);
    const inThreads: typeof resizePixels = (of, width, height) => renderer.resize(of, width, height);
    const pixels = await smaller(full, edge, inThreads);
    const survey = () => smaller(full, surveyEdge(edge), inThreads);
    const sight = () => smaller(full, SIGHT_EDGE, inThreads);
    const job = { pixels, survey, sight, grey: facts.grey, treatment };
    const { file } = await renderFile(renderer, job, settings);
    return file;
  } catch (error) {
    if (error instanceof PictureError) throw new CommandError(`${picture}: ${error.message}`);
    throw error;
  }
}
