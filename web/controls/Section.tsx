import styled from 'styled-components';

/** A part of the panel about one setting, or several that belong together. */
export const Section = styled.section`
  padding: 7px 16px;
  border-top: 1px solid var(--rule);
  & & {
    padding: 7px 0;
  }
  &[data-plain] {
    border-top: 0;
    padding: 0;
  }
`;

export const SectionName = styled.h3`
  display: flex;
  align-items: center;
  height: 24px;
  font-size: var(--t-body);
  font-weight: 600;
`;
