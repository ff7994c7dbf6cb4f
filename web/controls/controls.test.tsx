import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { drag } from '../testing/desk';
import { settingsOf } from '../testing/settings';

/** The controls of single settings, by mouse and by keys: what they make of the settings. */

const slider = (name: string | RegExp) => page.getByRole('slider', { name });
const focusOn = (name: string | RegExp) => (slider(name).element() as HTMLElement).focus();
const press = async (key: string, times = 1) => {
  for (let i = 0; i < times; i++) await userEvent.keyboard(key);
};
const far = (key: string) => `{Shift>}{${key}}{/Shift}`;

describe('a curve', () => {
  it('is lifted by keys at both ends, and Delete takes a point that was added', async () => {
    const { settings, labels } = await settingsOf({ kind: 'curve' });
    const curve = () => (settings().points as { all: [number, number][] }).all;
    focusOn('Point 1 of 2');
    await press(far('ArrowUp'));
    focusOn('Point 2 of 2');
    await press(far('ArrowDown'));
    expect(curve()).toEqual([
      [0, 0.1],
      [1, 0.9],
    ]);
    await page.getByRole('button', { name: 'Point' }).click();
    expect(curve()).toHaveLength(3);
    expect(curve()[1][1]).toBeCloseTo(0.5, 2);
    focusOn('Point 2 of 3');
    await press('{Delete}');
    expect(curve()).toHaveLength(2);
    expect(labels.length).toBe(4);
  });

  it('has points pressed onto its line, which are drawn with the pointer', async () => {
    const { settings } = await settingsOf({ kind: 'curve' });
    const curve = () => (settings().points as { all: [number, number][] }).all;
    const field = page.getByRole('group', { name: /^Curve, all/ }).element();
    await drag(field, [0.5, 0.5], [0.5, 0.45], [0.5, 0.35]);
    expect(curve()).toHaveLength(3);
    expect(curve()[1][0]).toBeCloseTo(0.5, 1);
    expect(curve()[1][1]).toBeCloseTo(0.65, 1);
  });

  it('has its places typed', async () => {
    const { settings } = await settingsOf({ kind: 'curve' });
    await page.getByRole('button', { name: 'Point' }).click();
    const type = async (name: string, value: string) => {
      await userEvent.fill(page.getByRole('textbox', { name: `${name}, number` }), value);
      await press('{Enter}');
    };
    await type('Point, tone', '40');
    await type('Point, becomes', '70');
    expect((settings().points as { all: unknown[] }).all[1]).toEqual([0.4, 0.7]);
    await expect.element(slider('Point 2 of 3')).toHaveAttribute('aria-valuetext', '40 becomes 70');
  });
});

interface Stop {
  at: number;
  colour: string;
}
const grey = ['#000000', '#403020', '#808080', '#c0b090', '#ffffff'];

describe('a gradient', () => {
  const five = grey.map((colour, i) => ({ at: i / 4, colour }));
  const stopsOf = ({ settings }: { settings: () => Record<string, unknown> }) => settings().stops as Stop[];

  it('has a stop whose place is typed; Delete takes the one in focus, and its neighbour is next', async () => {
    const set = await settingsOf({ kind: 'gradient-map', settings: { stops: five } });
    focusOn(/^Stop 3 of 5/);
    await userEvent.fill(page.getByRole('textbox', { name: 'Place of stop 3, number' }), '60');
    await press('{Enter}');
    expect(stopsOf(set)[2]).toEqual({ at: 0.6, colour: '#808080' });
    focusOn(/^Stop 4 of 5/);
    await press('{Delete}');
    await expect.element(slider(/^Stop 3 of 4, #808080/)).toHaveFocus();
    await press('{Delete}');
    expect(stopsOf(set).map(s => s.colour)).toEqual(['#000000', '#403020', '#ffffff']);
  });

  it('is moved by keys, evened, reversed, and taken back to black and white', async () => {
    const set = await settingsOf({
      kind: 'gradient-map',
      settings: { stops: five.slice(0, 3).concat(five[4]) },
    });
    focusOn(/^Stop 3 of 4/);
    await press(far('ArrowRight'), 3);
    expect(stopsOf(set)[2].at).toBeCloseTo(0.8, 2);
    await page.getByRole('button', { name: 'Even', exact: true }).click();
    expect(stopsOf(set).map(s => Math.round(s.at * 100))).toEqual([0, 33, 67, 100]);
    (page.getByRole('switch', { name: 'Reverse' }).element() as HTMLElement).focus();
    await press(' ');
    expect(set.settings().reverse).toBe(true);
    await page.getByRole('button', { name: 'Black and white' }).click();
    expect(stopsOf(set).map(s => s.colour)).toEqual(['#000000', '#ffffff']);
  });

  it('has a stop added, which takes its colour by number', async () => {
    const set = await settingsOf({ kind: 'gradient-map' });
    await page.getByRole('button', { name: 'Add a stop' }).click();
    await page.getByRole('button', { name: /Colour of stop 3/ }).click();
    await userEvent.fill(
      page.getByRole('dialog', { name: 'Colour of stop 3' }).getByRole('textbox'),
      '#a06030',
    );
    await press('{Enter}');
    await press('{Escape}');
    expect(stopsOf(set).map(s => s.colour)).toContain('#a06030');
  });
});

describe('baths', () => {
  it('lie in order; each starts where its toner does, or where it is told to; one is taken out', async () => {
    const { settings } = await settingsOf({ kind: 'baths' });
    const baths = () => settings().baths as { toner: string; start: string }[];
    await page.getByRole('button', { name: 'First bath' }).click();
    await page.getByRole('button', { name: 'Another bath' }).click();
    const second = page.getByRole('region', { name: /^Bath 2/ });
    await second.getByRole('button', { name: /Bath 2 toner/ }).click();
    await page.getByRole('option', { name: 'Iron blue' }).click();
    await second.getByRole('button', { name: /Bath 2 starts in/ }).click();
    await page.getByRole('option', { name: 'The darks' }).click();
    expect(baths()[1]).toMatchObject({ toner: 'iron-blue', start: 'shadows' });
    await expect.element(second.getByText(/^Leaves/)).toBeVisible();
    await page.getByRole('button', { name: 'Bath 2 earlier' }).click();
    expect(baths().map(b => b.toner)[0]).toBe('iron-blue');
    await page.getByRole('button', { name: 'Remove bath 1' }).click();
    expect(baths()).toHaveLength(1);
    expect(baths()[0].toner).not.toBe('iron-blue');
  });
});

describe('levels', () => {
  it('have 1 in the middle of gamma, and all of its range by keys', async () => {
    const { settings } = await settingsOf({ kind: 'levels' });
    const gamma = slider('Gamma').element() as HTMLInputElement;
    expect(gamma.getAttribute('aria-valuetext')).toBe('1.00');
    const [value, least, most] = [gamma.value, gamma.min, gamma.max].map(Number);
    expect((value - least) / (most - least)).toBeCloseTo(0.5, 2);
    gamma.focus();
    await press('{End}');
    await expect.poll(() => settings().gamma).toBe(10);
    expect(gamma.getAttribute('aria-valuetext')).toBe('10.00');
  });
});
