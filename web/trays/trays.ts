import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';

/** How the tray line looks. */

/** The picture in a tray, in CSS pixels. */
export const BASIN = { width: 92, height: 52 };

/** The whole line at the foot of the Bench. */
export const Line = styled.section`
  grid-column: 1 / -1;
  background: linear-gradient(#d2d2d2, var(--paper-low) 6px);
  border-top: 1px solid #ababab;
  position: relative;
  z-index: 2;
  overflow: hidden;
`;

/** What the line scrolls in. */
export const Scroll = styled.div`
  height: 100%;
  overflow: auto hidden;
  scrollbar-width: thin;
`;

/** Says that there are more trays on a side, and brings them into sight; below the lamp, which stays in sight there. */
export const More = styled.div`
  position: absolute;
  top: 62px;
  bottom: 14px;
  width: 30px;
  display: grid;
  place-items: center;
  z-index: 1;
  cursor: pointer;
  color: var(--ink);
  &[data-side='left'] {
    left: 0;
    background: linear-gradient(90deg, var(--paper-low) 55%, transparent);
  }
  &[data-side='right'] {
    right: 0;
    background: linear-gradient(270deg, var(--paper-low) 55%, transparent);
  }
  svg {
    width: 18px;
    height: 18px;
  }
`;

/** The strength of the whole treatment, at the line's end, above the rail. */
export const Whole = styled.div`
  position: absolute;
  right: 16px;
  top: 0;
  width: 216px;
  height: 20px;
  overflow: hidden;
  padding-left: 10px;
  background: linear-gradient(90deg, transparent, #d4d4d4 10px);
  > div {
    height: 20px;
    grid-template-columns: 44px 1fr 42px;
  }
  input {
    height: 19px;
    font-size: var(--t-small);
  }
`;

/** What scrolls in it. */
export const Run = styled.div`
  position: relative;
  display: flex;
  width: max-content;
  min-width: 100%;
  justify-content: center;
  padding: 0 20px;
  height: 100%;
  /* Longer than what is seen: its end can be brought out from under the strength of the whole. */
  &[data-long] {
    padding-right: 250px;
  }
`;

/** The rail that the lamp runs on, lit up to the lamp. */
export const Rail = styled.div`
  position: absolute;
  left: 0;
  right: 0;
  top: 24px;
  height: 1px;
  background: #a6a6a6;
  &::before {
    content: '';
    position: absolute;
    left: 0;
    top: -0.5px;
    height: 2px;
    width: var(--lamp-x);
    background: var(--lamp-deep);
  }
`;

/** The trays of one stage. */
export const Group = styled.div`
  position: relative;
  padding-right: 28px;
  &[data-stage='finish'] {
    padding-right: 0;
  }
  &[data-landing] h3 {
    color: var(--ink);
    box-shadow: inset 0 -3px 0 var(--lamp);
  }
  &:not([data-stage='finish'])::after {
    content: '';
    position: absolute;
    right: 14px;
    top: 36px;
    height: 58px;
    width: 1px;
    background: #bdbdbd;
  }
  h3 {
    font-size: var(--t-small);
    font-weight: 500;
    color: var(--ink-2);
    height: 24px;
    line-height: 24px;
    padding-left: 2px;
    /* The stage stays named while its trays scroll by. */
    position: sticky;
    left: 20px;
    width: max-content;
  }
  > div {
    display: flex;
    gap: 8px;
    padding-top: 9px;
    min-height: 64px;
  }
`;

/** A dish and the name of its step; off, beyond the lamp, chosen. */
export const Tray = styled.button`
  width: 104px;
  display: block;
  text-align: left;
  position: relative;
  touch-action: none;
  flex: none;
  /* It comes into sight whole, not under the sign that there is more. */
  scroll-margin: 0 34px;
  .dish {
    position: relative;
    display: block;
    width: 104px;
    height: 64px;
    border-radius: 9px;
    border: 1px solid #9a9a9a;
    background: linear-gradient(#fff, #eee);
    box-shadow:
      0 1px 1px rgb(0 0 0 / 0.2),
      0 3px 4px rgb(0 0 0 / 0.1);
    padding: 5px;
  }
  canvas,
  .dish svg {
    display: block;
    width: 92px;
    height: 52px;
    border-radius: 5px;
  }
  .dish::after {
    content: '';
    position: absolute;
    inset: 5px;
    border-radius: 5px;
    box-shadow:
      inset 0 0 0 1px rgb(0 0 0 / 0.3),
      inset 0 3px 5px rgb(0 0 0 / 0.3),
      inset 0 -2px 2px rgb(255 255 255 / 0.25);
  }
  .name {
    display: flex;
    justify-content: space-between;
    gap: 4px;
    padding: 6px 3px 0;
    font-size: var(--t-small);
    white-space: nowrap;
    line-height: 16px;
  }
  .name span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .name svg {
    display: inline;
    width: 12px;
    height: 12px;
    margin: 0 4px -2px 0;
    color: var(--ink-2);
  }
  .name span:last-child {
    color: var(--ink-2);
  }
  &[data-landing]::before {
    content: '';
    position: absolute;
    top: 2px;
    height: 60px;
    width: 5px;
    border-radius: 3px;
    background: var(--lamp);
    box-shadow: 0 0 0 1px var(--lamp-deep);
    z-index: 2;
  }
  &[data-landing='before']::before {
    left: -7px;
  }
  &[data-landing='after']::before {
    right: -7px;
  }
  &:hover .dish {
    transform: translateY(-1px);
  }
  &[aria-current] .name {
    font-weight: 650;
  }
  &[aria-current] .name span:last-child {
    color: var(--ink);
  }
  &[aria-current] .dish {
    transform: translateY(-1px);
    box-shadow:
      0 0 0 3px var(--lamp),
      0 0 0 4px var(--lamp-deep),
      0 3px 5px 3px rgb(0 0 0 / 0.18);
  }
  &[data-later] .dish {
    opacity: 0.55;
  }
  &[data-later] .name {
    color: var(--ink-2);
  }
  &[data-off] .dish {
    background: none;
    border-color: #777;
    opacity: 1;
  }
  &[data-picked] .dish {
    outline: 2px dashed var(--ink);
    outline-offset: 2px;
  }
  &[data-off]:not([aria-current]) .dish {
    box-shadow: none;
  }
  &[data-off] .dish::after {
    box-shadow: inset 0 0 0 1px #a8a8a8;
  }
  &[data-off] canvas,
  &[data-off] .dish svg {
    visibility: hidden;
  }
  &[data-off] .name,
  &[data-off] .name span:last-child {
    color: var(--ink-off);
  }
  &:focus-visible {
    outline: none;
  }
  &:focus-visible .dish {
    outline: 2px solid var(--ink);
    outline-offset: 5px;
  }
`;

/** The place for one more step. */
export const Add = styled(AriaButton)`
  width: 26px;
  height: 64px;
  border: 1px dashed #777;
  border-radius: 8px;
  display: grid;
  place-items: center;
  color: var(--ink-2);
  flex: none;
  svg {
    width: 16px;
    height: 16px;
    stroke-width: 1.75;
  }
  &[data-hovered],
  &[aria-expanded='true'] {
    border-style: solid;
    color: var(--ink);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;
