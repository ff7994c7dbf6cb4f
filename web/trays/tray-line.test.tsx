import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import type { Edits } from '../takes/edits';
import { desk, treated } from '../testing/desk';
import { TrayLine } from './TrayLine';

/** The tray line on a take of its own: chosen, ranged over, switched, copied, grouped, removed; lit by the lamp. */

const kinds = ['light', 'mono', 'curve', 'levels', 'split-tone', 'tint', 'baths', 'gradient-map', 'filter'];
const steps = (count: number) =>
  Array.from({ length: count }, (_, i) => ({
    id: `k${i}`,
    kind: i < 2 ? kinds[i] : kinds[2 + (i % 7)],
    stage: i === 0 ? 'ground' : i === 1 ? 'mono' : i < count - 5 ? 'tone' : 'finish',
  }));

async function line(count: number) {
  const copied: (readonly string[])[] = [];
  const lamps: number[] = [];
  function Line({
    treatment,
    edits,
    chosen,
    choose,
  }: {
    treatment: ReturnType<typeof treated>;
    edits: Edits;
    chosen: string | null;
    choose: (id: string | null) => void;
  }) {
    const [range, setRange] = useState<readonly string[]>([]);
    const [lamp, setLamp] = useState(treatment.steps.length);
    const there = range.filter(id => treatment.steps.some(s => s.id === id));
    return (
      <div style={{ width: 1200, display: 'grid' }}>
        <TrayLine
          picture={{ id: 'none', width: 60, height: 40, grey: false, damage: null }}
          treatment={treatment}
          chosen={chosen}
          lamp={Math.min(lamp, treatment.steps.length)}
          edits={edits}
          picked={there.length > 1 ? there : chosen === null ? [] : [chosen]}
          onPick={setRange}
          onCopy={ids => copied.push(ids)}
          onChoose={id => {
            choose(id);
            setRange([]);
          }}
          onLamp={at => {
            lamps.push(at);
            setLamp(at);
          }}
          onAdd={() => undefined}
          adding={null}
          onTint={() => undefined}
          tinting={false}
          shared={[]}
        />
      </div>
    );
  }
  const at = await desk(treated(steps(count)), Line);
  const trays = () => [...document.querySelectorAll<HTMLElement>('[data-tray]')];
  const order = () => at.now().steps.map(s => s.id);
  /** Takes the range from the third tray to the fifth, the focus on its end. */
  const takeRange = async () => {
    await userEvent.click(trays()[2]);
    await userEvent.click(trays()[4], { modifiers: ['Shift'] });
    trays()[4].focus();
    expect(document.querySelectorAll('[data-picked]')).toHaveLength(3);
  };
  return { ...at, trays, order, takeRange, copied, lamps };
}

describe('a range of trays', () => {
  it('is switched off and on as one change', async () => {
    const { now, takeRange, session } = await line(6);
    await takeRange();
    await userEvent.keyboard(' ');
    expect(now().steps.map(s => s.enabled)).toEqual([true, true, false, false, false, true]);
    expect(session.state().undo).toBe('Three steps off');
    await userEvent.keyboard(' ');
    expect(now().steps.every(s => s.enabled)).toBe(true);
  });

  it('is doubled, and one undo takes that back', async () => {
    const { order, takeRange, session } = await line(6);
    await takeRange();
    await userEvent.keyboard('{Control>}d{/Control}');
    expect(order()).toHaveLength(9);
    await session.undo();
    expect(order()).toEqual(['k0', 'k1', 'k2', 'k3', 'k4', 'k5']);
  });

  it('is grouped under a name', async () => {
    const { now, takeRange } = await line(6);
    await takeRange();
    await userEvent.keyboard('g');
    await expect.element(page.getByRole('group', { name: 'Group 1, 3 steps' }).first()).toBeVisible();
    expect(now().groups).toHaveLength(1);
  });

  it('is removed, and the next step is chosen', async () => {
    const { order, takeRange, trays } = await line(6);
    await takeRange();
    await userEvent.keyboard('{Delete}');
    expect(order()).toEqual(['k0', 'k1', 'k5']);
    expect(trays().find(t => t.ariaCurrent === 'step')?.dataset.tray).toBe('k5');
  });
});

describe('the lamp', () => {
  it('goes to either end by keys, with its place in sight, on a line of twenty', async () => {
    const { trays, lamps } = await line(20);
    const lamp = page.getByRole('slider', { name: /^Lamp/ });
    (lamp.element() as HTMLElement).focus();
    await userEvent.keyboard('{Home}');
    await expect.element(lamp).toHaveAttribute('aria-valuetext', 'Bare');
    await userEvent.keyboard('{End}');
    await expect.element(lamp).toHaveAttribute('aria-valuenow', '20');
    expect(lamps.at(-1)).toBe(20);
    const last = trays().at(-1)!.getBoundingClientRect();
    await expect.poll(() => trays().at(-1)!.getBoundingClientRect().right).toBeLessThanOrEqual(1200);
    expect(last.width).toBeGreaterThan(20);
  });

  it('stays in reach, wherever the line is scrolled to', async () => {
    const { trays } = await line(20);
    const lamp = page.getByRole('slider', { name: /^Lamp/ }).element();
    const middle = () => {
      const { left, width } = lamp.getBoundingClientRect();
      return left + width / 2;
    };
    trays()[0].scrollIntoView();
    await expect.poll(middle).toBeLessThan(1200);
    trays().at(-1)!.scrollIntoView();
    await expect.poll(middle).toBeGreaterThan(5);
  });
});
