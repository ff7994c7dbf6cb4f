import styled from 'styled-components';
import { rgbToLab } from '../../core/colour/lab';
import { toHex } from '../../core/colour/srgb';
import { WallLabel } from './labels';

export interface ReadColour {
  colour: [number, number, number];
  /** Of the picture that it is compared with, at the same place; null where there is none. */
  was: [number, number, number] | null;
}

const Label = styled(WallLabel)`
  left: 22px;
  padding-right: 4px;
  max-width: calc(100% - 254px);
  overflow: hidden;
  &[data-compared] span {
    padding: 0 6px;
  }
  @media (max-width: 1180px) {
    &[data-compared] span {
      em {
        display: none;
      }
    }
  }
  /* Beside the wall's tones there is room for three: hue tells less than zone, lightness and chroma. */
  @media (max-width: 1180px) {
    &:not([data-compared]) span:nth-of-type(3) {
      display: none;
    }
  }
  em {
    font-style: normal;
  }
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
  span[data-brief] {
    padding: 0 6px;
    b {
      min-width: 1.4em;
      font-weight: 500;
    }
  }
  i {
    width: 28px;
    height: 28px;
    border-radius: 2px 0 0 2px;
  }
`;

const zones = ['0', 'I', 'II', 'III', 'IV', 'V', 'VI', 'VII', 'VIII', 'IX', 'X'];

/** What is read of a colour: its tone zone, and lightness, hue and chroma in CIELAB, as they are shown. */
function readOf([r, g, b]: [number, number, number]) {
  const [L, a, bb] = rgbToLab(r, g, b);
  const chroma = Math.hypot(a, bb);
  const hue = (Math.atan2(bb, a) * 180) / Math.PI;
  return {
    paint: toHex(r, g, b),
    Zone: zones[Math.round(L / 10)],
    'L*': Math.round(L),
    Hue: chroma < 0.5 ? 'none' : `${Math.round((hue + 360) % 360)}°`,
    Chroma: Math.round(chroma),
  };
}
const shown = ['Zone', 'L*', 'Hue', 'Chroma'] as const;

/** The colour under the pointer, and what it is in the picture beside it. */
export function Reading({ reading, beside = 'was' }: { reading: ReadColour | null; beside?: string }) {
  if (!reading) return null;
  const here = readOf(reading.colour);
  const there = reading.was && readOf(reading.was);
  return (
    <Label aria-label="Under the pointer" data-compared={there ? '' : undefined}>
      <i style={{ background: here.paint }} />
      {shown.map(name => (
        <span key={name}>
          <em data-word={name}>{name}</em> <b>{here[name]}</b>
        </span>
      ))}
      {there ? (
        <>
          <span>{beside}</span>
          <i style={{ background: there.paint, borderRadius: 0 }} />
          {shown.map(name => (
            <span key={name} aria-label={`${name} ${there[name]}`} data-brief>
              <b>{there[name]}</b>
            </span>
          ))}
        </>
      ) : null}
    </Label>
  );
}
