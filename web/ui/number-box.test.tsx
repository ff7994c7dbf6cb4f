import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { useKeys } from '../app/useKeys';
import { put } from '../testing/desk';
import { SHARE_OF_ALL, Slider } from './slider';

/** A number as people type it, in a field beside which keys are commands. */

async function field(
  of: { value?: number; min?: number; max?: number; shownTimes?: number; decimals?: number } = {},
) {
  const commands: string[] = [];
  const rested: number[] = [];
  const { value: from = 0, ...range } = { min: -4, max: 4, shownTimes: 1, decimals: 2, ...of };
  function Field() {
    const [value, setValue] = useState(from);
    useKeys({
      laterPhotograph: () => void commands.push('.'),
      earlierPhotograph: () => void commands.push(','),
      zoomOut: () => void commands.push('-'),
      zoomIn: () => void commands.push('+'),
      pigment: () => void commands.push('digit'),
      pan: () => void commands.push('space'),
      removeTray: () => void commands.push('delete'),
      history: () => void commands.push('y'),
      giveUp: () => void commands.push('escape'),
      alone: () => void commands.push('a'),
      undo: () => void commands.push('undo'),
    });
    return (
      <Slider
        label="Exposure"
        value={value}
        step={0.05}
        standard={0}
        {...range}
        onChange={setValue}
        onChangeEnd={v => {
          setValue(v);
          rested.push(v);
        }}
      />
    );
  }
  await put(
    <>
      <Field />
      <button type="button">Elsewhere</button>
    </>,
  );
  const input = page.getByRole('textbox', { name: 'Exposure, number' }).element() as HTMLInputElement;
  await userEvent.click(input);
  return { input, commands, rested };
}

describe('a number that is typed', () => {
  it.each([
    ['2.05', 2.05, '+2.05'],
    ['2,05', 2.05, '+2.05'],
    ['-0.6', -0.6, '-0.60'],
    ['-0,4', -0.4, '-0.40'],
    ['.5', 0.5, '+0.50'],
    ['+1', 1, '+1.00'],
    ['1.5 EV', 1.5, '+1.50'],
    ['99', 4, '+4.00'],
  ])('%s is taken by Enter, and none of its keys is a command', async (text, value, shown) => {
    const { input, commands, rested } = await field();
    await userEvent.keyboard(text.replace('{', '{{'));
    await userEvent.keyboard('{Enter}');
    expect(rested).toEqual([value]);
    expect(input.value).toBe(shown);
    expect(commands).toEqual([]);
    // The keys are commands again.
    expect(document.activeElement).toBe(page.getByRole('slider').element());
    await userEvent.keyboard('y');
    expect(commands).toEqual(['y']);
  });

  it('is taken when the field is left, by Tab or by a press elsewhere', async () => {
    const { rested } = await field();
    await userEvent.keyboard('1.25');
    await userEvent.tab();
    expect(rested).toEqual([1.25]);
  });

  it('that is none is dropped, and so is one that Escape gives up', async () => {
    const { input, rested, commands } = await field({ value: 1 });
    await userEvent.keyboard('abc{Enter}');
    expect(input.value).toBe('+1.00');
    await userEvent.keyboard('3{Escape}');
    expect(input.value).toBe('+1.00');
    expect(rested).toEqual([]);
    expect(commands).toEqual([]);
  });

  it('that is looked at and left writes nothing', async () => {
    const { rested } = await field({ value: 0.333_333 });
    await userEvent.tab();
    await userEvent.click(page.getByRole('button', { name: 'Elsewhere' }));
    expect(rested).toEqual([]);
  });

  it('goes by arrows: a step, ten with Shift', async () => {
    const { rested } = await field();
    await userEvent.keyboard('{ArrowUp}{ArrowUp}{Shift>}{ArrowDown}{/Shift}');
    expect(rested.map(v => Math.round(v * 100) / 100)).toEqual([0.05, 0.1, -0.4]);
  });

  it.each([
    [{ ...SHARE_OF_ALL, value: 1, decimals: 1 }, '100.0'],
    [{ min: -180, max: 180, value: -179.69 }, '-179.69'],
    [{ min: -1, max: 1, shownTimes: 100, decimals: 0, value: -1 }, '-100'],
  ])('has room for %j', async (of, shown) => {
    const { input } = await field(of);
    expect(input.value).toBe(shown);
    expect(input.scrollWidth).toBeLessThanOrEqual(input.clientWidth);
  });

  it('is written into the field when it is typed on the slider', async () => {
    const { input, rested, commands } = await field();
    (page.getByRole('slider').element() as HTMLElement).focus();
    await userEvent.keyboard('-1,5');
    expect(document.activeElement).toBe(input);
    await userEvent.keyboard('{Enter}');
    expect(rested).toEqual([-1.5]);
    expect(commands).toEqual([]);
  });

  it('leaves no letter to the commands, and Ctrl Z as long as nothing is half typed', async () => {
    const { commands } = await field();
    await userEvent.keyboard('yabc {Escape}');
    expect(commands).toEqual([]);
    await userEvent.keyboard('{Control>}z{/Control}');
    expect(commands).toEqual(['undo']);
  });
});
