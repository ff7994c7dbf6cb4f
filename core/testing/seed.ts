import fc from 'fast-check';

/** Property tests draw anew on every run, but in CI always the same, so that a red run speaks of the change. */
if (process.env.CI) fc.configureGlobal({ seed: 20261125 });
