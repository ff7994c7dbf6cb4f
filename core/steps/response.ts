/** How the response to hue families answers to a colour: shared by the conversion and what is found for it. */

/** At -1 the purest colours of a family have their encoded grey multiplied by 2 to the minus this. */
export const RESPONSE_DEPTH = 0.62;
/** Chroma (largest less smallest encoded channel) at which a colour answers half as much. */
const HALF_CHROMA = 0.2;

/** How much a colour answers to its family: chroma (largest less smallest channel) with a soft toe. */
export const responseShare = (span: number): number =>
  (span * span) / (span * span + HALF_CHROMA * HALF_CHROMA);
