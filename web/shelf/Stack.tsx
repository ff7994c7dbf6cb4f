import { Link } from 'react-router';
import styled from 'styled-components';
import type { SeriesSummary } from '../../contract/series';
import { TakePicture } from '../ui/TakePicture';

const Pile = styled(Link)`
  display: block;
  position: relative;
  aspect-ratio: 474 / 320;
  .print {
    position: absolute;
    inset: 0;
    background: #fafafa;
    padding: 7px;
    box-shadow:
      0 1px 2px rgb(0 0 0 / 0.3),
      0 5px 14px rgb(0 0 0 / 0.2);
  }
  &[data-small] .print {
    padding: 5px;
  }
  .print:last-child {
    box-shadow: var(--shade-print);
  }
  img,
  .none {
    width: 100%;
    height: 100%;
    object-fit: cover;
    background: #e2e2e2;
  }
  &:focus-visible {
    outline-color: var(--wall-ink);
    outline-offset: 5px;
  }
`;

/** How the prints beneath the top one lie: not quite straight. */
const lies = ['none', 'translate(-6px, 4px) rotate(-1.7deg)', 'translate(11px, 5px) rotate(2.3deg)'];

/** A series as a small pile of prints, the cover on top. */
export function Stack({ series, large }: { series: SeriesSummary; large?: boolean }) {
  const prints = series.stack.map((take, i) => ({ take, lie: lies[i] })).reverse();
  return (
    <Pile to={`/series/${series.id}`} aria-label={`Open ${series.title}`} data-small={large ? undefined : ''}>
      {prints.length === 0 ? (
        <span className="print">
          <span className="none" style={{ display: 'block' }} />
        </span>
      ) : null}
      {prints.map(({ take, lie }) => (
        <span className="print" key={take.takeId} style={{ transform: lie }}>
          <TakePicture take={{ id: take.takeId, revision: take.revision }} edge={large ? 960 : 480} />
        </span>
      ))}
    </Pile>
  );
}
