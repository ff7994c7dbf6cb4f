import styled from 'styled-components';
import { rgbToLab } from '../../core/colour/lab';
import { toHex } from '../../core/colour/srgb';
import { WallLabel } from './labels';

export interface ReadColour {
  colour: [number, number, number];
}

const Label = styled(WallLabel)`
  left: 22px;
  padding-right: 4px;
  span {
    padding: 0 10px;
    color: var(--ink-2);
    display: flex;
    gap: 6px;
    align-items: baseline;
  }
  span + span {
    box-shadow: -1px 0 0 var(--rule);
  }
  b {
    color: var(--ink);
    font-weight: 600;
    min-width: 1.6em;
  }
  i {
    width: 28px;
    height: 28px;
    border-radius: 2px 0 0 2px;
  }
`;

const zones = ['0', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'];

/** The colour under the pointer: tone zone, lightness, hue and chroma in CIELAB. */
export function Reading({ reading }: { reading: ReadColour | null }) {
  if (!reading) return null;
  const [r, g, b] = reading.colour;
  const [L, a, bb] = rgbToLab(r, g, b);
  const chroma = Math.hypot(a, bb);
  const hue = (Math.atan2(bb, a) * 180) / Math.PI;
  return (
    <Label aria-label="Under the pointer">
      <i style={{ background: toHex(r, g, b) }} />
      <span>
        Zone <b>{zones[Math.round(L / 10)]}</b>
      </span>
      <span>
        L* <b>{Math.round(L)}</b>
      </span>
      <span>
        Hue <b>{chroma < 0.5 ? 'none' : `${Math.round((hue + 360) % 360)}°`}</b>
      </span>
      <span>
        Chroma <b>{Math.round(chroma)}</b>
      </span>
    </Label>
  );
}
