import axe from 'axe-core';
import { useCallback } from 'react';
import { describe, expect, it } from 'vitest';
import { page, userEvent } from 'vitest/browser';
import { stepKinds } from '../../core/steps';
import { useSharing } from '../laying/useSharing';
import { useRegion } from '../print/useRegion';
import { settingOf } from '../takes/edits';
import { desk, treated, type DeskProps } from '../testing/desk';
import { useTestStrip } from '../teststrip/useTestStrip';
import { TrayLine } from '../trays/TrayLine';
import { StepPanel } from './StepPanel';

/** The panel of the chosen step beside the tray line: each field belongs to its own step. */

const picture = { id: 'none', width: 60, height: 40, grey: false, damage: null };
const nothing = () => undefined;

function Bench({ treatment, session, edits, chosen, choose }: DeskProps) {
  const step = treatment.steps.find(s => s.id === chosen);
  const strip = useTestStrip(picture, treatment, chosen, edits.commit, true);
  const sharing = useSharing('series', session.state().take.id, edits);
  const region = useRegion();
  const onSet = useCallback(() => settingOf(session, chosen), [session, chosen])();
  return (
    <div style={{ display: 'grid', gridTemplateColumns: '900px 300px' }}>
      <TrayLine
        picture={picture}
        treatment={treatment}
        chosen={chosen}
        lamp={treatment.steps.length}
        edits={edits}
        picked={chosen === null ? [] : [chosen]}
        onPick={nothing}
        onCopy={nothing}
        onChoose={choose}
        onLamp={nothing}
        onAdd={nothing}
        adding={null}
        onTint={nothing}
        tinting={false}
        shared={[]}
      />
      <aside style={{ background: 'var(--paper)' }}>
        {step ? (
          <StepPanel
            picture={picture}
            treatment={treatment}
            calm={treatment}
            step={step}
            now={edits.now}
            onPreview={edits.preview}
            onGlide={edits.glide}
            onCommit={edits.commit}
            onEditWhenFound={edits.editWhenFound}
            onSet={onSet}
            onBoard={nothing}
            onHold={nothing}
            pick={nothing}
            onAction={nothing}
            onAlternate={edits.alternate}
            onTry={nothing}
            sharing={sharing}
            strip={strip}
            onSpare={nothing}
            region={region}
          />
        ) : null}
      </aside>
    </div>
  );
}

const onBench = () =>
  desk(
    treated([
      { id: 'mono', kind: 'mono' },
      { id: 'split', kind: 'split-tone' },
      { id: 'curve', kind: 'curve' },
    ]),
    Bench,
  );
const tray = (id: string) => document.querySelector<HTMLElement>(`[data-tray="${id}"]`)!;
const strength = () => page.getByRole('textbox', { name: 'Strength, number' }).element() as HTMLInputElement;

describe('the strength of a step', () => {
  it('typed at one is not that of the next, whatever is done with the field there', async () => {
    const { now } = await onBench();
    await userEvent.click(tray('split'));
    await userEvent.click(strength());
    await userEvent.keyboard('70{Enter}');
    expect(now().steps.map(s => s.strength)).toEqual([1, 0.7, 1]);
    for (const id of ['curve', 'mono', 'curve']) {
      await userEvent.click(tray(id));
      expect(strength().value, id).toBe('100');
      await userEvent.click(strength());
      await userEvent.tab();
      expect(
        now().steps.map(s => s.strength),
        id,
      ).toEqual([1, 0.7, 1]);
    }
    await userEvent.click(tray('split'));
    expect(strength().value).toBe('70');
  });

  it('half typed when another step is chosen is its own, and never that of the other', async () => {
    const { now } = await onBench();
    await userEvent.click(tray('split'));
    await userEvent.click(strength());
    await userEvent.keyboard('40');
    await userEvent.click(tray('curve'));
    expect(now().steps.map(s => s.strength)).toEqual([1, 0.4, 1]);
    expect(strength().value).toBe('100');
  });

  it('follows an undo', async () => {
    const { session } = await onBench();
    await userEvent.click(tray('curve'));
    await userEvent.click(strength());
    await userEvent.keyboard('30{Enter}');
    await session.undo();
    await expect.poll(() => strength().value).toBe('100');
  });
});

it('the panel and the tray line change in the same frame', async () => {
  await onBench();
  await userEvent.click(tray('split'));
  tray('curve').click();
  await new Promise(requestAnimationFrame);
  expect(tray('curve').ariaCurrent).toBe('step');
  await expect.element(page.getByRole('heading', { name: 'Curve', level: 2 })).toBeVisible();
});

/** What axe finds on the page, by element. */
const found = async (options: axe.RunOptions = {}) => {
  const { violations } = await axe.run(document.body, options);
  return violations.map(v => `${v.id}: ${v.nodes.map(n => n.target.join(' ')).join(', ')}`);
};

describe('axe finds nothing beside the tray line', () => {
  it.each(stepKinds.map(k => k.kind))('in the panel of %s', async kind => {
    await desk(treated([{ id: 'it', kind, strength: 0.5 }]), Bench);
    await userEvent.click(tray('it'));
    await expect.poll(() => document.querySelector('aside h2, aside h3')).toBeTruthy();
    expect(await found()).toEqual([]);
    // The tone of the wall changes colours alone.
    const { dataset } = document.documentElement;
    for (const wall of ['dark', 'light']) {
      dataset.wall = wall;
      expect(await found({ runOnly: 'color-contrast' }), wall).toEqual([]);
    }
    delete dataset.wall;
  });
});
