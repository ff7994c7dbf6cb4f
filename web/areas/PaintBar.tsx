import { memo } from 'react';
import {
  Blend,
  Brush as BrushSign,
  Circle,
  Contrast,
  Droplet,
  ScanSearch,
  Paintbrush,
  Palette,
} from 'lucide-react';
import { ToggleButton } from 'react-aria-components';
import styled from 'styled-components';
import type { AreaShown } from '../../core/treatment/areas';
import { ColourPicker } from '../ui/colour';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import { isBrush, RADIUS, ROUGH, type AreaTool } from './painting-store';
import { toolNames, type Painting } from './usePainting';

const Bar = styled.div`
  position: absolute;
  left: 22px;
  bottom: 8px;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  max-width: calc(100% - 200px);
  > div {
    display: flex;
    align-items: center;
    height: 29px;
    white-space: nowrap;
  }
  > div + div {
    border-top: 1px solid var(--rule);
    padding: 0 4px 0 10px;
    gap: 6px;
  }
  .sizes {
    display: contents;
  }
  .roomy {
    display: contents;
  }
  .sizes > div,
  .roomy > div {
    grid-template-columns: auto 50px 34px;
    column-gap: 6px;
    width: auto;
  }
  .hint {
    color: var(--ink-2);
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .film {
    display: flex;
  }
  .push {
    flex: 1;
  }
  @media (max-width: 1180px) {
    .roomy {
      display: none;
    }
    .word {
      display: none;
    }
    .sizes > div {
      grid-template-columns: auto 36px;
      > :last-child {
        display: none;
      }
    }
    .film button {
      width: 26px;
    }
    > div + div button {
      padding: 0 4px;
    }
  }
`;

const Choice = styled(ToggleButton)`
  height: 28px;
  padding: 0 6px;
  display: flex;
  align-items: center;
  gap: 5px;
  color: var(--ink-2);
  font-weight: 500;
  svg {
    width: 14px;
    height: 14px;
  }
  &[data-hovered] {
    background: #fff;
  }
  &[data-selected] {
    color: var(--ink);
    font-weight: 650;
    box-shadow: inset 0 -2px 0 var(--lamp);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: -1px;
  }
`;

const tools: { tool: AreaTool; text: string; sign: typeof BrushSign }[] = [
  { tool: 'brush', text: 'Brush', sign: BrushSign },
  { tool: 'edges', text: 'Keep edges', sign: Paintbrush },
  { tool: 'finder', text: 'Finder', sign: ScanSearch },
  { tool: 'linear', text: 'Gradient', sign: Blend },
  { tool: 'oval', text: 'Oval', sign: Circle },
  { tool: 'tones', text: 'Tones', sign: Contrast },
  { tool: 'hues', text: 'Hues', sign: Palette },
];

const ways: { shown: AreaShown; text: string }[] = [
  { shown: 'film', text: 'Film' },
  { shown: 'grey', text: 'Grey' },
  { shown: 'edge', text: 'Edge' },
  { shown: 'off', text: 'Off' },
];

/** The tools for the chosen step's area, below the picture. */
export const PaintBar = memo(function PaintBar({ painting }: { painting: Painting }) {
  const { tool, brush, taking, shown, film, set } = painting;
  const size = Math.log(brush.radius / RADIUS.least) / Math.log(RADIUS.most / RADIUS.least);
  const setBrush = (change: Partial<typeof brush>) => set({ brush: { ...brush, ...change } });
  return (
    <Bar role="toolbar" aria-label="Area tools">
      <div>
        {tools.map(t => (
          <Choice
            key={t.tool}
            aria-label={t.text}
            isSelected={tool === t.tool}
            onChange={() => set({ tool: t.tool })}
          >
            <t.sign aria-hidden="true" />
            <span className="word">{t.text}</span>
          </Choice>
        ))}
        <Choice
          isSelected={painting.colouredMarked}
          onChange={colouredMarked => set({ colouredMarked })}
          aria-label="Mark what is coloured"
        >
          <Droplet aria-hidden="true" />
        </Choice>
        <span className="push" />
        <Choice isSelected={!taking} onChange={() => set({ taking: false })}>
          + Add
        </Choice>
        <Choice isSelected={taking} onChange={() => set({ taking: true })}>
          − Take away
        </Choice>
      </div>
      <div>
        {isBrush(tool) ? (
          <span className="sizes">
            <Slider
              label="Size"
              name="Brush size"
              value={Math.min(1, Math.max(0, size))}
              {...SHARE_OF_ALL}
              standard={0.65}
              onChange={v => setBrush({ radius: RADIUS.least * (RADIUS.most / RADIUS.least) ** v })}
              onChangeEnd={() => undefined}
            />
            {tool === 'edges' ? (
              <Slider
                label="Edges"
                name="Keep to edges"
                value={brush.keepEdges}
                {...SHARE_OF_ALL}
                min={0.05}
                standard={0.6}
                onChange={keepEdges => setBrush({ keepEdges })}
                onChangeEnd={() => undefined}
              />
            ) : (
              <Slider
                label="Hard"
                name="Brush hardness"
                value={brush.hardness}
                {...SHARE_OF_ALL}
                standard={0.5}
                onChange={hardness => setBrush({ hardness })}
                onChangeEnd={() => undefined}
              />
            )}
            <Slider
              label="Flow"
              name="Brush flow"
              value={brush.flow}
              {...SHARE_OF_ALL}
              min={0.01}
              onChange={flow => setBrush({ flow })}
              onChangeEnd={() => undefined}
            />
          </span>
        ) : tool === 'finder' ? (
          <span className="sizes">
            <Choice isSelected={!painting.around} onChange={() => set({ around: false })}>
              Draw on it
            </Choice>
            <Choice isSelected={painting.around} onChange={() => set({ around: true })}>
              Go around it
            </Choice>
            <span className="roomy">
              <Slider
                label="Size"
                name="Stroke size"
                value={Math.log(brush.rough / ROUGH.least) / Math.log(ROUGH.most / ROUGH.least)}
                {...SHARE_OF_ALL}
                standard={0.51}
                onChange={v => setBrush({ rough: ROUGH.least * (ROUGH.most / ROUGH.least) ** v })}
                onChangeEnd={() => undefined}
              />
            </span>
          </span>
        ) : (
          <span className="hint">{toolNames[tool]}</span>
        )}
        <span className="push" />
        <span className="film">
          <ColourPicker
            label="Film colour"
            value={film}
            onChange={colour => set({ film: colour })}
            onChangeEnd={colour => set({ film: colour })}
          />
        </span>
        {ways.map(w => (
          <Choice key={w.shown} isSelected={shown === w.shown} onChange={() => set({ shown: w.shown })}>
            {w.text}
          </Choice>
        ))}
      </div>
    </Bar>
  );
});
