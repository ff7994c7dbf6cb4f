import { tmpdir } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { SendOutSettings } from '../../contract/send-outs';
import { surveyEdge } from '../../core/engine/survey';
import { SIGHT_EDGE } from '../../core/masks/finding/sight';
import type { Treatment } from '../../core/treatment/treatment';
import type { Decoded } from '../pictures/decode';
import { PictureError } from '../pictures/bounds';
import { inspect, type PictureFacts } from '../pictures/inspect';
import { withMetadata } from '../pictures/metadata';
import { smaller } from '../pictures/store';
import { renderFile } from '../render/file';
import { outputOf } from '../render/output';
import { Renderer, type RenderJob } from '../render/renderer';
import { CommandError, readingProblem } from './command';

/** A picture from a file, decoded. */
export interface Opened {
  path: string;
  facts: PictureFacts;
  full: Decoded;
}

/** How a file is to be, beside its settings. */
export interface Finish {
  settings: SendOutSettings;
  /** Something is told beside the pixels. */
  says: boolean;
  author: string;
  rights: string;
  /** What its treatment is called. */
  treatmentName: string;
}

/** Makes files of pictures, without a database: for the commands. */
export class Maker {
  readonly renderer = new Renderer(fileURLToPath(new URL('./band-worker.mjs', import.meta.url)), {
    ready: 2,
  });

  /** A damaged one is refused: what comes out would be grey in places, and nobody looks at it. Throws a CommandError. */
  async open(
    path: string,
    inspecting = inspect(path),
    decoding?: Promise<Decoded>,
    onFacts: (facts: PictureFacts) => void = () => undefined,
  ): Promise<Opened> {
    try {
      const facts = await inspecting;
      onFacts(facts);
      const full = await (decoding ?? this.renderer.decode(path, facts));
      if (full.damage) throw new PictureError(`is damaged: ${full.damage}`);
      return { path, facts, full };
    } catch (error) {
      if (error instanceof PictureError) throw new CommandError(`${path}: ${error.message}`);
      if (typeof (error as NodeJS.ErrnoException).code === 'string') {
        throw new CommandError(`${path}: ${readingProblem(error)}`);
      }
      throw error;
    }
  }

  /** Bakes what a treatment needs of tables while the picture is still being decoded. */
  bakeAhead(facts: PictureFacts, treatment: Treatment, settings: SendOutSettings): void {
    const { size, treatment: sharpened } = outputOf(facts, treatment, settings);
    this.renderer.bakeAhead(sharpened, facts.grey, size.width * size.height);
  }

  /** What is to be rendered of it at a long edge of the photograph. */
  async jobOf({ facts, full }: Opened, edge: number, treatment: Treatment): Promise<Omit<RenderJob, 'bits'>> {
    const inThreads = (of: Parameters<Renderer['resize']>[0], width: number, height: number) =>
      this.renderer.resize(of, width, height);
    return {
      pixels: await smaller(full, edge, inThreads),
      survey: () => smaller(full, surveyEdge(edge), inThreads),
      sight: () => smaller(full, SIGHT_EDGE, inThreads),
      grey: facts.grey,
      treatment,
    };
  }

  /** The finished file of a treatment of a picture. */
  async file(picture: Opened, treatment: Treatment, finish: Finish): Promise<Buffer> {
    const { settings, says, author, rights, treatmentName } = finish;
    const { edge, dpi, treatment: sharpened } = outputOf(picture.facts, treatment, settings);
    const job = await this.jobOf(picture, edge, sharpened);
    const caption = { title: '', rights: rights || author };
    const { file } = await renderFile(this.renderer, job, settings, { dpi, caption });
    if (!says) return file;
    return withMetadata(file, settings.format, tmpdir(), {
      what: settings.metadata,
      credits: { author, rights },
      treatment: treatmentName,
      dpi,
      original: () => Promise.resolve(picture.path),
    });
  }
}
