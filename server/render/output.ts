import type { SendOutSettings } from '../../contract/send-outs';
import { framedSize, photographEdge, sizeAt } from '../../core/frame/geometry';
import { outputEdge, writtenDpi } from '../../core/frame/output-size';
import { sharpenedFor } from '../../core/treatment/output-sharpening';
import type { Treatment } from '../../core/treatment/treatment';

/** How a picture goes out: its size, the resolution that it says, what is rendered for it. */
export interface Output {
  /** The long edge of the photograph that it is rendered from. */
  edge: number;
  size: { width: number; height: number };
  dpi: number;
  /** With the sharpening for what it is looked at on. */
  treatment: Treatment;
}

export function outputOf(
  source: { width: number; height: number },
  treatment: Treatment,
  { size: wanted, dpi: asked, sharpen }: Pick<SendOutSettings, 'size' | 'dpi' | 'sharpen'>,
): Output {
  const full = framedSize(source, treatment.frame);
  const edge = photographEdge(source, treatment.frame, outputEdge(wanted, asked, full));
  const size = framedSize(sizeAt(source, edge), treatment.frame);
  const dpi = writtenDpi(wanted, asked, size);
  return { edge, size, dpi, treatment: sharpenedFor(treatment, sharpen, dpi, size) };
}
