import styled from 'styled-components';

/** The paper label under a small print: its title, what was done to it, its take. */
export const PrintLabel = styled.div`
  background: var(--paper);
  margin-top: 6px;
  padding: 3px 8px 5px;
  border-radius: var(--r-label);
  box-shadow: var(--shade-label);
  font-size: var(--t-small);
  line-height: 16px;
  position: relative;
  b {
    display: block;
    font: 400 15px/18px var(--serif);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  b i {
    font: 500 12px/18px var(--sans);
    color: var(--ink-2);
    margin-right: 7px;
  }
  > span {
    color: var(--ink-2);
    display: flex;
    gap: 8px;
    white-space: nowrap;
  }
  u {
    text-decoration: none;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
    margin-right: auto;
  }
`;
