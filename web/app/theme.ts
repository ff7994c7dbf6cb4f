import { createGlobalStyle } from 'styled-components';

/** The look: a printing room in the evening. Grey wall, paper-white labels, one lamp. */
export const GlobalStyle = createGlobalStyle`
  :root {
    --wall: #6e6e6e;
    --wall-edge: #626262;
    --wall-ink: #ffffff;
    --paper: #ededed;
    --paper-high: #f8f8f8;
    --paper-low: #e0e0e0;
    --rule: #cfcfcf;
    --edge: #858585;
    --ink: #1c1c1c;
    --ink-2: #505050;
    --ink-off: #5e5e5e;
    --lamp: #c9781b;
    --lamp-deep: #a9600d;
    --sans: 'Instrument Sans Variable', system-ui, sans-serif;
    --serif: 'Instrument Serif', Georgia, serif;
    --t-small: 12px;
    --t-body: 13px;
    --t-lead: 14px;
    --t-title: 19px;
    --t-display: 38px;
    --bar: 44px;
    --strip: 76px;
    --panel: 300px;
    --line: 132px;
    --r-label: 2px;
    --r-field: 4px;
    --shade-label: 0 1px 2px rgb(0 0 0 / 0.28);
    --shade-print: 0 1px 2px rgb(0 0 0 / 0.3), 0 10px 28px rgb(0 0 0 / 0.22);
    --shade-float: 0 1px 2px rgb(0 0 0 / 0.3), 0 8px 24px rgb(0 0 0 / 0.28);
  }
  [data-wall='dark'] { --wall: #3a3a3a; --wall-edge: #323232; }
  [data-wall='light'] { --wall: #b9b9b9; --wall-edge: #aaaaaa; --wall-ink: #1c1c1c; }

  * { box-sizing: border-box; margin: 0; }
  html, body, #root { height: 100%; }
  body {
    font: 400 var(--t-body)/1.3 var(--sans);
    color: var(--ink);
    background: var(--wall);
    font-feature-settings: 'tnum' 1;
    font-variant-numeric: tabular-nums;
    -webkit-font-smoothing: antialiased;
    overflow: hidden;
  }
  button { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
  button:disabled { cursor: default; }
  input, textarea { font: inherit; color: inherit; }
  ol, ul { list-style: none; padding: 0; }
  a { color: inherit; text-decoration: none; }
  img { display: block; }
  svg { display: block; }
  :focus-visible { outline: 2px solid var(--lamp-deep); outline-offset: 2px; }
  ::selection { background: #d6d6d6; }
  /* Where the browser chooses the colours, what is chosen is told by a line about it. */
  @media (forced-colors: active) {
    [aria-pressed='true'], [aria-current]:not(h1), [aria-selected='true'], [data-selected], [data-tried], [data-picked], [data-now] {
      outline: 2px solid Highlight !important;
      outline-offset: -2px;
    }
    :focus-visible { outline: 3px solid CanvasText !important; }
  }
  @media (prefers-reduced-motion: reduce) { * { animation: none !important; transition: none !important; } }
`;

/** What is read to those who do not see, and not drawn. */
export const hidden = {
  position: 'absolute',
  width: 1,
  height: 1,
  overflow: 'hidden',
  clipPath: 'inset(50%)',
  whiteSpace: 'nowrap',
} as const;
