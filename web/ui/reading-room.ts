import styled from 'styled-components';

/** A screen that is one sheet to be read, on the wall, beneath the bar. */
export const ReadingRoom = styled.main`
  height: calc(100vh - var(--bar));
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  overflow: hidden auto;
  padding: 30px 34px 34px;
  display: grid;
  justify-content: center;
  align-content: start;
`;
