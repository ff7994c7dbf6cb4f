import { describe, expect, it } from 'vitest';
import { connect } from './models';

/** The models, without a database. */

const { models } = connect('postgres://nobody@127.0.0.1:1/none');

describe.each(Object.entries(models))('the model %s', (_name, model) => {
  it('has a column of its own for each attribute', () => {
    const columns = Object.values(model.getAttributes()).map(({ field }) => field);
    expect(new Set(columns).size).toBe(columns.length);
    for (const [name, { field }] of Object.entries(model.getAttributes())) {
      expect(field).toBe(name.replace(/[A-Z]/g, letter => `_${letter.toLowerCase()}`));
    }
  });
});
