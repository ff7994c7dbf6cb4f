import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { Bar, Crumbs } from './bar';

const Middle = styled.main`
  display: grid;
  place-items: center;
  height: calc(100vh - var(--bar));
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  div {
    background: var(--paper-high);
    border-radius: var(--r-label);
    box-shadow: var(--shade-label);
    padding: 14px 18px;
    max-width: 460px;
    line-height: 1.45;
  }
  a {
    text-decoration: underline;
  }
`;

const PATIENCE_MS = 400;

/** A screen that is not there yet (said only after a moment), or cannot be. */
export function Wait({ problem }: { problem?: string }) {
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), PATIENCE_MS);
    return () => clearTimeout(timer);
  }, []);
  return (
    <>
      <Bar>
        <Crumbs here={problem && 'Unavailable'} />
      </Bar>
      <Middle>
        {problem ? (
          <div role="alert">
            {problem} <Link to="/">Back to the shelf</Link>
          </div>
        ) : late ? (
          <div role="status">Loading …</div>
        ) : null}
      </Middle>
    </>
  );
}
