import styled from 'styled-components';

/** Where the parts of the Bench stand: the bar above, neighbours, picture and panel, the tray line below. */
export const Frame = styled.div`
  background: #dcdcdc;
  height: 100vh;
  display: grid;
  grid-template: var(--bar) minmax(0, 1fr) var(--line) / var(--strip) minmax(0, 1fr) var(--panel);
  > header {
    grid-column: 1 / -1;
  }
  &[data-alone] {
    grid-template: 0 minmax(0, 1fr) 0 / 0 minmax(0, 1fr) 0;
    > header,
    > nav,
    > aside,
    > section {
      visibility: hidden;
    }
  }
`;
