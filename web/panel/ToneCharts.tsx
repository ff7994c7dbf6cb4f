import { memo, useEffect, useState } from 'react';
import styled from 'styled-components';
import { unwound } from '../../core/analysis/tone-drift';
import { toHex } from '../../core/colour/srgb';
import type { Treatment } from '../../core/treatment/treatment';
import { smallPictures } from '../engine/client';
import type { Charted } from '../engine/small';
import type { PictureInfo } from '../engine/tiles';
import type { RegionChoice } from '../print/useRegion';
import { LinkButton } from '../ui/buttons';
import { Fold } from '../ui/fold';

const Section = styled.section`
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .head {
    display: flex;
    align-items: center;
    height: 30px;
    gap: 10px;
  }
  svg.chart {
    display: block;
    width: 100%;
    background: var(--paper-high);
    overflow: visible;
  }
  text {
    font: 400 10.5px var(--sans);
    fill: var(--ink-2);
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    font-size: var(--t-small);
    color: var(--ink-2);
    margin: 6px 0 3px;
    b {
      color: var(--ink);
      font-weight: 600;
    }
  }
`;

const OPEN_KEY = 'lampwash.charts';
/** How long the picture must rest before it is charted. */
const REST_MS = 150;

const WIDE = 268;
const HIGH = 86;
/** Room left for what the axis says. */
const LEFT = 30;

const zones = ['I', 'III', 'V', 'VII', 'IX'] as const;
const zoneAt = [1, 3, 5, 7, 9];

/** The line of a histogram, closed along its foot. */
const area = (counts: readonly number[], most: number, from: number, wide: number, high: number) =>
  `M${from},${high}L${counts
    .map((n, i) => `${from + (i / (counts.length - 1)) * wide},${high - Math.min(1, n / most) * (high - 2)}`)
    .join('L')}L${from + wide},${high}Z`;

function HistogramChart({ charted }: { charted: Charted }) {
  const { luma, channels } = charted;
  // The ends may hold so much that nothing else would be seen.
  const most = Math.max(1, ...[luma, ...channels].flatMap(c => c.slice(1, -1)));
  return (
    <svg className="chart" viewBox={`0 0 ${WIDE} 64`} role="img" aria-label="Tones from dark to light">
      <path d={area(luma, most, 0, WIDE, 64)} fill="#8d8d8d" opacity="0.55" />
      {channels.map((counts, k) => (
        <path
          key={k}
          d={area(counts, most, 0, WIDE, 64)}
          fill="none"
          stroke={['#b23b32', '#3f8a3c', '#3a5fb5'][k]}
          strokeWidth="1.2"
        />
      ))}
    </svg>
  );
}

/** Bins with fewer pixels than this say nothing of the picture's colour. */
const FEW = 0.002;
/** Half the width of the band for a unit of chroma, in degrees on the chart. */
const PER_CHROMA = 0.35;

function DriftChart({ charted: { drift } }: { charted: Charted }) {
  const told = drift.map(bin => (bin.share >= FEW ? bin.hue : null));
  const row = unwound(told);
  const there = row.filter(h => h !== null);
  if (there.length === 0) {
    return (
      <svg className="chart" viewBox={`0 0 ${WIDE} 40`} role="img" aria-label="No tone has colour">
        <text x={WIDE / 2} y="24" textAnchor="middle">
          No tone has colour.
        </text>
      </svg>
    );
  }
  const middle = (Math.min(...there) + Math.max(...there)) / 2;
  const span = Math.max(70, Math.max(...there) - Math.min(...there) + 30);
  const [low, high] = [middle - span / 2, middle + span / 2];
  const x = (i: number) => LEFT + ((i + 0.5) / drift.length) * (WIDE - LEFT);
  const y = (hue: number) => HIGH - ((hue - low) / (high - low)) * HIGH;
  const every = span > 200 ? 90 : span > 100 ? 45 : 30;
  const lines: number[] = [];
  for (let hue = Math.ceil(low / every) * every; hue <= high; hue += every) lines.push(hue);
  const most = Math.max(...drift.map(b => b.share));
  const words = drift
    .map((bin, i) =>
      told[i] === null
        ? null
        : `L* ${Math.round(((i + 0.5) / drift.length) * 100)}: ${Math.round(bin.hue!)}°, chroma ${Math.round(bin.chroma)}`,
    )
    .filter(w => w !== null);
  return (
    <svg
      className="chart"
      viewBox={`0 0 ${WIDE} ${HIGH + 16}`}
      role="img"
      aria-label={`Hue from dark to light. ${words.join('; ')}`}
      data-drift
    >
      {lines.map(hue => (
        <g key={hue}>
          <path d={`M${LEFT},${y(hue)}H${WIDE}`} stroke="#dcdcdc" />
          <text x={LEFT - 4} y={y(hue) + 3.5} textAnchor="end">
            {((hue % 360) + 360) % 360}°
          </text>
        </g>
      ))}
      {drift.map((bin, i) => (
        <rect
          key={i}
          x={x(i) - (WIDE - LEFT) / drift.length / 2}
          width={(WIDE - LEFT) / drift.length + 0.3}
          y={HIGH - (bin.share / most) * (HIGH - 8)}
          height={(bin.share / most) * (HIGH - 8)}
          fill="#cdcdcd"
        />
      ))}
      {row.map((hue, i) => {
        const next = row[i + 1];
        if (hue === null || next === null || next === undefined) return null;
        const wide = (k: number) => Math.max(1.2, drift[k].chroma * PER_CHROMA * (HIGH / span) * 2);
        return (
          <g key={i}>
            <polygon
              points={`${x(i)},${y(hue) - wide(i) / 2} ${x(i + 1)},${y(next) - wide(i + 1) / 2} ${x(i + 1)},${y(next) + wide(i + 1) / 2} ${x(i)},${y(hue) + wide(i) / 2}`}
              fill={toHex(...drift[i].colour)}
            />
            {[-0.5, 0.5].map(side => (
              <path
                key={side}
                d={`M${x(i)},${y(hue) + side * wide(i)}L${x(i + 1)},${y(next) + side * wide(i + 1)}`}
                stroke="#1c1c1c"
                strokeLinecap="round"
              />
            ))}
          </g>
        );
      })}
      {zones.map((zone, i) => (
        <text key={zone} x={LEFT + (zoneAt[i] / 10) * (WIDE - LEFT)} y={HIGH + 13} textAnchor="middle">
          {zone}
        </text>
      ))}
    </svg>
  );
}

/** The tones of the picture as it is, and how its colour goes from dark to light: of all of it, or of a region. */
export const ToneCharts = memo(function ToneCharts({
  picture,
  treatment,
  choice,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  choice: RegionChoice;
}) {
  const [open, setOpen] = useState(() => localStorage.getItem(OPEN_KEY) === 'open');
  const [charted, setCharted] = useState<Charted | null>(null);
  const { region } = choice;
  useEffect(() => {
    if (!open) return;
    let stale = false;
    const chart = async () => {
      const { engine } = await smallPictures();
      const made = await engine.charts(picture, treatment, region);
      if (!stale) setCharted(made);
    };
    const timer = setTimeout(() => void chart().catch(() => undefined), REST_MS);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [open, picture, treatment, region]);
  const toggle = () => {
    localStorage.setItem(OPEN_KEY, open ? 'folded' : 'open');
    setOpen(!open);
  };
  return (
    <Section aria-label="Tones and hues">
      <div className="head">
        <Fold open={open} onToggle={toggle}>
          Tones and hues
        </Fold>
        {open ? (
          region || choice.isAsked ? (
            <LinkButton onPress={choice.clear}>Of all of it</LinkButton>
          ) : (
            <LinkButton onPress={choice.ask}>Of a region</LinkButton>
          )
        ) : null}
      </div>
      {open && charted ? (
        <>
          <figure>
            <HistogramChart charted={charted} />
          </figure>
          <figure>
            <figcaption>
              <b>Hue drift</b>
              <span>hue by tone zone</span>
            </figcaption>
            <DriftChart charted={charted} />
          </figure>
        </>
      ) : null}
    </Section>
  );
});
