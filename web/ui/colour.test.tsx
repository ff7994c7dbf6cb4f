import { useState } from 'react';
import { expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { put } from '../testing/desk';
import { ColourPicker } from './colour';

/** A colour behind its swatch: its parts come when it is opened, and what is found is told on the way and at the end. */

const wells = [
  { name: 'Rose', colour: '#cc6677' },
  { name: 'Sea', colour: '#336688' },
];

async function pick() {
  const told: string[] = [];
  const ended: string[] = [];
  function Shown() {
    const [value, setValue] = useState('#a08060');
    const onChange = (hex: string) => {
      told.push(hex);
      setValue(hex);
    };
    return (
      <ColourPicker
        label="Shadows"
        value={value}
        onChange={onChange}
        onChangeEnd={hex => void ended.push(hex)}
        wells={wells}
      />
    );
  }
  await put(<Shown />);
  await userEvent.click(page.getByRole('button', { name: 'Shadows: #a08060' }));
  await expect.element(page.getByRole('textbox', { name: 'Number' })).toBeVisible();
  return { told, ended };
}

it('a number is typed, told, and told once more when the picker is closed', async () => {
  const { told, ended } = await pick();
  const field = page.getByRole('textbox', { name: 'Number' });
  expect((field.element() as HTMLInputElement).value.toLowerCase()).toBe('#a08060');
  await userEvent.fill(field, '#224466');
  await userEvent.keyboard('{Enter}');
  expect(told.at(-1)).toBe('#224466');
  expect(ended).toEqual([]);
  await userEvent.keyboard('{Escape}');
  await expect.poll(() => ended).toEqual(['#224466']);
  await expect.element(page.getByRole('button', { name: 'Shadows: #224466' })).toBeVisible();
});

it('a hue is moved by keys, and keeps how light and how strong the colour is', async () => {
  const { told } = await pick();
  page.getByRole('slider', { name: 'Shadows, hue' }).element().focus();
  await userEvent.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}');
  const [r, g, b] = [1, 3, 5].map(i => parseInt(told.at(-1)!.slice(i, i + 2), 16));
  expect(told).toHaveLength(3);
  // The largest and the smallest channel are those of before: only the one between them has moved.
  expect([r, b]).toEqual([0xa0, 0x60]);
  expect(g).toBeGreaterThan(0x80);
});

it('a colour of the pigment box is taken by a press', async () => {
  const { told } = await pick();
  await userEvent.click(page.getByRole('option', { name: 'Sea' }));
  expect(told).toEqual(['#336688']);
});
