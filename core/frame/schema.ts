import { z } from 'zod';

/** The frame of a treatment: turned, mirrored, keystoned, straightened, cropped, in this order. */

const fraction = z.number().min(0).max(1);

const cropSchema = z
  .strictObject({
    x: fraction.default(0),
    y: fraction.default(0),
    width: z.number().gt(0).max(1).default(1),
    height: z.number().gt(0).max(1).default(1),
  })
  .superRefine((crop, context) => {
    if (crop.x + crop.width > 1 + 1e-9) {
      context.addIssue({ code: 'custom', path: ['width'], message: 'the crop leaves the picture' });
    }
    if (crop.y + crop.height > 1 + 1e-9) {
      context.addIssue({ code: 'custom', path: ['height'], message: 'the crop leaves the picture' });
    }
  })
  .prefault({});

export const frameSchema = z
  .strictObject({
    /** Clockwise. */
    quarterTurns: z.int().min(0).max(3).default(0),
    /** Left and right exchanged. */
    mirror: z.boolean().default(false),
    /** Degrees, clockwise. */
    angle: z.number().min(-45).max(45).default(0),
    keystone: z
      .strictObject({
        vertical: z.number().min(-1).max(1).default(0),
        horizontal: z.number().min(-1).max(1).default(0),
      })
      .prefault({}),
    /** Fractions of the turned picture. */
    crop: cropSchema,
  })
  .prefault({});
