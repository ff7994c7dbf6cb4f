import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { drag, put, standing } from '../testing/desk';
import { Slider } from './slider';

/** A slider and its number: by pointer, wheel, keys and typing. */

async function slider() {
  const rested: number[] = [];
  let now = 0;
  function Exposure() {
    const [value, setValue] = useState(0);
    const move = (v: number) => setValue((now = v));
    return (
      <div style={{ width: 300 }}>
        <Slider
          label="Exposure"
          value={value}
          min={-4}
          max={4}
          step={0.05}
          standard={0}
          decimals={2}
          onChange={move}
          onChangeEnd={v => {
            move(v);
            rested.push(v);
          }}
        />
      </div>
    );
  }
  await put(<Exposure />);
  const thumb = page.getByRole('slider', { name: 'Exposure' }).element() as HTMLInputElement;
  const number = page.getByRole('textbox', { name: 'Exposure, number' }).element() as HTMLInputElement;
  const track = document.querySelector<HTMLElement>('[data-kind]')!;
  return { now: () => now, rested, thumb, number, track };
}

describe('a slider', () => {
  it('is dragged, and rests once', async () => {
    const { now, rested, track, number } = await slider();
    await drag(track, [0.5, 0.5], [0.6, 0.5], [0.75, 0.5]);
    expect(now()).toBeCloseTo(2, 0);
    expect(rested).toHaveLength(1);
    expect(number.value).toBe(`+${now().toFixed(2)}`);
  });

  it('stands where it stood when Escape is pressed on the way, until it is moved anew', async () => {
    const { now, rested, track, number } = await slider();
    await drag(track, [0.5, 0.5], [0.6, 0.5]);
    const stood = now();
    expect(stood).toBeGreaterThan(0.5);
    await drag(track, [0.6, 0.5], [0.8, 0.5], 'Escape', [0.9, 0.5]);
    expect(now()).toBe(stood);
    expect(rested.at(-1)).toBe(stood);
    expect(number.value).toBe(`+${stood.toFixed(2)}`);
    await drag(track, [0.6, 0.5], [0.2, 0.5]);
    expect(now()).toBeLessThan(-1);
  });

  it('is turned by the wheel where it has the focus, and nowhere else', async () => {
    const { now, rested, track, thumb } = await slider();
    const turn = () =>
      track.dispatchEvent(new WheelEvent('wheel', { deltaY: -100, bubbles: true, cancelable: true }));
    turn();
    expect(now()).toBe(0);
    thumb.focus();
    turn();
    turn();
    await expect.poll(() => rested).toHaveLength(1);
    expect(now()).toBeCloseTo(0.1, 6);
  });

  it('is set back by a double click', async () => {
    const { now, track, number } = await slider();
    await drag(track, [0.5, 0.5], [0.9, 0.5]);
    expect(now()).toBeGreaterThan(2);
    await userEvent.dblClick(track);
    expect(now()).toBe(0);
    await expect.poll(() => number.value).toBe('0.00');
  });

  it('moves by keys, and tells what it is set to', async () => {
    const { now, thumb } = await slider();
    thumb.focus();
    await userEvent.keyboard('{ArrowRight}{ArrowRight}');
    expect(now()).toBeCloseTo(0.1, 6);
    expect(thumb.getAttribute('aria-valuetext')).toBe('+0.10');
    await userEvent.keyboard('{End}');
    expect(now()).toBe(4);
  });
  it('tells what it shows, by however little it is moved from elsewhere', async () => {
    const red = (value: number) => (
      <Slider
        {...{ label: 'Red', value, min: -1, max: 1, step: 0.01, standard: 0, shownTimes: 100 }}
        onChange={() => undefined}
        onChangeEnd={() => undefined}
      />
    );
    const screen = await put(red(0));
    const thumb = page.getByRole('slider', { name: 'Red' });
    const number = page.getByRole('textbox', { name: 'Red, number' });
    // A pull on the picture gives values between the steps of the slider, and just at their borders.
    for (let value = 0.1; value < 0.16; value += 0.0025) {
      for (const of of [value, value + 1e-9, value + 0.001]) {
        await screen.rerender(standing(red(of)));
        const shown = (number.element() as HTMLInputElement).value;
        expect(thumb.element().getAttribute('aria-valuetext'), String(of)).toBe(shown);
      }
    }
  });

  it('has a number that is typed anew after Escape or Enter, wherever the pointer presses in it', async () => {
    const { now, number } = await slider();
    await userEvent.click(number);
    await userEvent.keyboard('2{Enter}');
    for (const end of ['{Escape}', '{Enter}']) {
      await userEvent.click(number);
      await userEvent.keyboard(`1.5${end}`);
      await userEvent.click(number);
      await userEvent.keyboard('-0,4{Enter}');
      expect(now()).toBeCloseTo(-0.4, 6);
    }
  });
});
