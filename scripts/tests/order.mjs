/** The order of files and tests, as Vitest takes it: of the seed that `npm test` prints, or of one that Vitest makes and prints. */
export const order = {
  sequence: {
    shuffle: { files: true, tests: true },
    ...(process.env.LAMPWASH_SEED && { seed: Number(process.env.LAMPWASH_SEED) }),
  },
};
