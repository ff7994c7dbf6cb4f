import type { ReactNode } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import type { SendOutSettings } from '../../contract/send-outs';
import { countOf } from '../../words/words';
import type { Tabled } from '../out/TableDialog';
import { useOtherFiles, type OtherFile } from '../out/useOtherFiles';

const Strip = styled.section`
  grid-column: 1;
  background: #dedede;
  border-top: 1px solid #b5b5b5;
  padding: 12px 30px 18px 26px;
  h2 {
    font-size: 15px;
    font-weight: 650;
    margin-bottom: 8px;
  }
  > div {
    display: flex;
    gap: 10px;
  }
  @media (max-width: 940px) {
    > div {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
    }
  }
`;

const Card = styled(AriaButton)`
  display: grid;
  grid-template-rows: 44px auto;
  align-content: start;
  align-items: center;
  row-gap: 5px;
  flex: 1 1 0;
  min-width: 0;
  max-width: 240px;
  padding: 8px 6px 8px 10px;
  line-height: 1.3;
  text-align: left;
  background: var(--paper-high);
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  &[data-hovered] {
    background: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  b {
    display: block;
    font-weight: 600;
  }
  small {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  svg {
    flex: none;
  }
`;

/** A page with pictures in rows; of pairs, every second one is grey. */
function Page({ pairs }: { pairs: boolean }) {
  const tones = [
    '#6b5a4c',
    '#a8937d',
    '#4b3a30',
    '#8d7a63',
    '#c9b99f',
    '#7b6a58',
    '#9a7f60',
    '#3c3a39',
    '#b29a7c',
  ];
  const greys = ['#5f5f5f', '#9b9b9b', '#424242'];
  return (
    <svg width="34" height="44" viewBox="0 0 34 44" aria-hidden="true">
      <rect x="0.5" y="0.5" width="33" height="43" fill="#fff" stroke="#9a9a9a" />
      {[0, 1, 2].flatMap(row =>
        (pairs ? [0, 1] : [0, 1, 2]).map(column => (
          <rect
            key={`${row} ${column}`}
            x={pairs ? 5 + column * 12.5 : 4.5 + column * 8.7}
            y={9 + row * 10.5}
            width={pairs ? 11 : 7.2}
            height="7"
            fill={pairs && column === 0 ? greys[row] : tones[row * 3 + column]}
          />
        )),
      )}
      <rect x="4.5" y="4" width="13" height="1.5" fill="#8a8a8a" />
    </svg>
  );
}

/** Steps one beneath another, each with its tone. */
function Steps() {
  return (
    <svg width="34" height="44" viewBox="0 0 34 44" aria-hidden="true">
      <path d="M0.5 0.5 H24 L33.5 10 V43.5 H0.5 Z" fill="#fff" stroke="#9a9a9a" />
      {['#fff', '#9a9a9a', '#a88a60', '#a4483a'].map((tone, i) => (
        <g key={tone}>
          <rect x="6" y={8 + i * 8.5} width="10" height="6" rx="2" fill={tone} stroke="#3c3a39" />
          <rect x="19" y={10 + i * 8.5} width="9" height="1.5" fill="#8a8a8a" />
        </g>
      ))}
    </svg>
  );
}

/** A cube of colours, its faces in steps of tone. */
function Cube() {
  const face = (side: 'top' | 'left' | 'right', i: number, j: number) => {
    // Along the two edges that the face is spanned by.
    const [ax, ay, bx, by] = { top: [6, 3.2, -6, 3.2], left: [6, 3.2, 0, 6.8], right: [6, -3.2, 0, 6.8] }[
      side
    ];
    const [ox, oy] = { top: [21, 3], left: [3, 12.6], right: [21, 22.2] }[side];
    const corner = (u: number, v: number) => `${ox + ax * u + bx * v},${oy + ay * u + by * v}`;
    const tone = { top: 78, left: 50, right: 34 }[side] - (side === 'top' ? 0 : j * 8) + i * 4;
    return (
      <polygon
        key={`${side} ${i} ${j}`}
        points={[corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)].join(' ')}
        fill={`hsl(33 ${side === 'left' ? 22 : 30}% ${tone}%)`}
        stroke="#fff"
        strokeWidth="0.5"
      />
    );
  };
  return (
    <svg width="42" height="44" viewBox="0 0 42 44" aria-hidden="true">
      {(['top', 'left', 'right'] as const).flatMap(side =>
        [0, 1, 2].flatMap(i => [0, 1, 2].map(j => face(side, i, j))),
      )}
    </svg>
  );
}

/** Three pictures, one above another, the upper ones with parts left out. */
function Stack() {
  return (
    <svg width="42" height="44" viewBox="0 0 42 44" aria-hidden="true">
      {[
        ['#8a8a8a', 24],
        ['#b79a70', 15],
        ['#a4483a', 6],
      ].map(([tone, y], i) => (
        <polygon
          key={tone}
          points={`21,${y} 39,${Number(y) + 8} 21,${Number(y) + 16} 3,${Number(y) + 8}`}
          fill={String(tone)}
          fillOpacity={i ? 0.8 : 1}
          stroke="#3c3a39"
        />
      ))}
    </svg>
  );
}

/** An area, white on black. */
function Area() {
  return (
    <svg width="44" height="34" viewBox="0 0 44 34" aria-hidden="true">
      <rect x="0.5" y="0.5" width="43" height="33" fill="#1c1c1c" stroke="#3c3a39" />
      <path d="M7 21 C10 12 18 15 22 10 C27 4 38 9 36 17 C35 25 27 24 22 27 C15 30 5 29 7 21 Z" fill="#fff" />
    </svg>
  );
}

/** What else can be made of the photographs that go out. */
export function AlsoFrom({
  seriesId,
  settings,
  going,
}: {
  seriesId: string;
  /** Layers are as large as pictures are, and named like them. */
  settings: SendOutSettings;
  going: readonly Tabled[];
}) {
  const files = useOtherFiles(seriesId, going, { settings });
  const isOne = going.length === 1;
  const cards: [OtherFile, ReactNode, string, string][] = [
    ['contact', <Page key="p" pairs={false} />, 'Contact sheet', 'PDF or picture'],
    ['before-after', <Page key="p" pairs />, 'Before and after', 'in pairs'],
    ['card', <Steps key="s" />, isOne ? 'Treatment card' : 'Treatment cards', 'each step'],
    ['table', <Cube key="c" />, 'Colour table', '.cube'],
    ['treatment', <Steps key="s" />, isOne ? 'Treatment' : 'Treatments', isOne ? 'JSON' : 'JSON, in a zip'],
    ['areas', <Area key="a" />, 'Areas', 'grey PNGs'],
    ['layers', <Stack key="k" />, 'Layers', 'OpenRaster'],
  ];
  return (
    <Strip aria-label="Also from these">
      <h2>
        Also from{' '}
        {isOne ? 'this one' : `these ${countOf(going.length, 'photograph').split(' ')[0].toLowerCase()}`}
      </h2>
      <div>
        {cards.map(([what, picture, name, as]) => (
          <Card
            key={what}
            isDisabled={!going.length || files.making !== null}
            onPress={() => files.make(what)}
          >
            {picture}
            <span>
              <b>{name}</b>
              <small role={files.making === what ? 'status' : undefined}>
                {files.making === what ? 'Making …' : as}
              </small>
            </span>
          </Card>
        ))}
      </div>
      {files.dialog}
    </Strip>
  );
}
