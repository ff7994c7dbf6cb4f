import { TextField } from 'react-aria-components';
import styled from 'styled-components';

/** How the settings of a file are laid out: a name, and what is set. */

export const Row = styled.div`
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr);
  column-gap: 10px;
  align-items: center;
  min-height: 38px;
  > span {
    color: var(--ink-2);
  }
`;

export const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px;
  column-gap: 10px;
  align-items: center;
  input {
    width: 100%;
    height: 27px;
    background: #fff;
    border: 0;
    border-bottom: 1px solid var(--edge);
    text-align: right;
    padding: 0 6px;
    font-weight: 550;
  }
  input:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

/** What is written in words. */
export const Words = styled(TextField)`
  input {
    width: 100%;
    height: 27px;
    background: #fff;
    border: 0;
    border-bottom: 1px solid var(--edge);
    padding: 0 7px;
  }
  input:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

/** Parts of the settings, with a line between them. */
export const Part = styled.div`
  margin: 0 -18px;
  padding: 6px 18px;
  & + & {
    border-top: 1px solid var(--rule);
  }
`;

export const Small = styled.p`
  color: var(--ink-2);
  font-size: var(--t-small);
  line-height: 1.4;
  overflow-wrap: anywhere;
`;
