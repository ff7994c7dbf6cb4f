import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { stepKinds } from '../../core/steps';
import { settingsOf } from '../testing/settings';

/** Every number of every step kind has a field of its own, which sets it and nothing else. */

/** All that settings hold, by their paths: numbers, colours, names. */
function leavesIn(value: unknown, path = ''): Record<string, unknown> {
  if (typeof value !== 'object' || value === null) return { [path]: value };
  return Object.assign(
    {},
    ...Object.entries(value).map(([key, inner]) => leavesIn(inner, path ? `${path}.${key}` : key)),
  ) as Record<string, unknown>;
}

const numberFields = () => page.getByRole('textbox', { name: /, number$/ }).elements() as HTMLInputElement[];

describe('each number field', () => {
  it.each(stepKinds.map(({ kind }) => kind))('of %s sets its own setting alone', async kind => {
    const { settings } = await settingsOf({ kind });
    const seen = new Set<string>();
    for (const field of numberFields()) {
      const before = leavesIn(settings());
      const name = field.getAttribute('aria-label')!;
      await userEvent.fill(field, Number.parseFloat(field.value) === 7 ? '8' : '7');
      await userEvent.keyboard('{Enter}');
      const after = leavesIn(settings());
      const changed = Object.keys(after).filter(path => after[path] !== before[path]);
      expect(changed, name).toHaveLength(1);
      expect(seen, name).not.toContain(changed[0]);
      seen.add(changed[0]);
      // And it shows what it set.
      expect(Number.parseFloat(field.value), name).not.toBeNaN();
    }
  });
});
