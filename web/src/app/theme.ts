import { createGlobalStyle, css } from 'styled-components';

/** One name per meaning; the values change with the light. */
const day = css`
  --paper: #fbfaf4;
  --sheet: #ffffff;
  --ink: #16242f;
  --soft: #566570;
  --line: #d7dcd8;
  --hair: #e8eae4;
  --deep: #f4fafb;
  --grid: #e1ecee;
  --usual1: #ddeef2;
  --usual2: #bfdde6;
  --usual3: #9cc8d6;
  --track: #2b6e82;
  --limit-fill: #f0dfb0;
  --limit-hatch: #d9bc6c;
  --band1: #fbf5e2;
  --band2: #f6ebcb;
  --limit-edge: #8a6a1f;
  --limit-ink: #5f460d;
  --now: #a3246f;
  --now-paper: #fef8fc;
  --on-now: #ffffff;
  --caution: #8f4b00;
  --caution-paper: #fff1d6;
  --warning: #b3161f;
  --warning-paper: #fde6e4;
  --rail: #12303c;
  --rail-ink: #cfe3e8;
  --rail-on: #fbfaf4;
  --rail-on-ink: #12303c;
  --button: #ffffff;
  --button-line: #8d9ba0;
  color-scheme: light;
`;
const night = css`
  --paper: #0b1418;
  --sheet: #0f1b20;
  --ink: #e8dfcb;
  --soft: #a7aea6;
  --line: #24343a;
  --hair: #1c2a30;
  --deep: #0d191e;
  --grid: #17262c;
  --usual1: #14303a;
  --usual2: #1c4452;
  --usual3: #28596a;
  --track: #6fb3c6;
  --limit-fill: #4a3a17;
  --limit-hatch: #6b5522;
  --band1: #1f1b10;
  --band2: #2a2413;
  --limit-edge: #c7a458;
  --limit-ink: #d9bd7d;
  --now: #e27ab6;
  --now-paper: #1d1520;
  --on-now: #23091a;
  --caution: #e9a94c;
  --caution-paper: #2e210d;
  --warning: #ff7b74;
  --warning-paper: #331314;
  --rail: #060d11;
  --rail-ink: #b9c2bd;
  --rail-on: #1c2c33;
  --rail-on-ink: #e8dfcb;
  --button: #14242a;
  --button-line: #6e7d80;
  color-scheme: dark;
`;
/** Maximum contrast for full sun. */
const sun = css`
  --paper: #ffffff;
  --sheet: #ffffff;
  --ink: #000000;
  --soft: #22303a;
  --line: #4c5860;
  --hair: #9aa4a8;
  --deep: #ffffff;
  --grid: #c9d4d6;
  --usual1: #d3e9ef;
  --usual2: #9ccbd9;
  --usual3: #6fb0c2;
  --track: #00485c;
  --limit-fill: #f2d37a;
  --limit-hatch: #7a5a00;
  --band1: #fff6d6;
  --band2: #ffe9a8;
  --limit-edge: #4d3700;
  --limit-ink: #2e2100;
  --now: #7d004c;
  --now-paper: #ffffff;
  --on-now: #ffffff;
  --caution: #6b3600;
  --caution-paper: #ffe3ad;
  --warning: #8f000a;
  --warning-paper: #ffd9d6;
  --rail: #001a24;
  --rail-ink: #ffffff;
  --rail-on: #ffffff;
  --rail-on-ink: #001a24;
  --button: #ffffff;
  --button-line: #000000;
  color-scheme: light;
`;

export const GlobalStyle = createGlobalStyle`
  :root { ${day} }
  @media (prefers-color-scheme: dark) { :root { ${night} } }
  @media (prefers-contrast: more) { :root { ${sun} } }
  :root[data-light='day'] { ${day} }
  :root[data-light='night'] { ${night} }
  :root[data-light='sun'] { ${sun} }
  *, *::before, *::after { box-sizing: border-box; margin: 0; }
  html, body, #root { height: 100%; }
  body {
    font: 15px/1.35 'Atkinson Next', system-ui, sans-serif;
    color: var(--ink);
    background: var(--paper);
    -webkit-font-smoothing: antialiased;
  }
  button { font: inherit; color: inherit; }
  a { color: inherit; text-underline-offset: 3px; text-decoration-color: var(--button-line); }
  :focus-visible { outline: 3px solid var(--now); outline-offset: 2px; }
  ol, ul { list-style: none; padding: 0; }
  @media (prefers-reduced-motion: reduce) { * { transition: none !important; animation: none !important; } }
`;

/** A part of a page in a light of its own, by its `data-light`. */
export const lights = css`
  &[data-light='day'] {
    ${day}
  }
  &[data-light='night'] {
    ${night}
  }
  &[data-light='sun'] {
    ${sun}
  }
`;

export const mono = css`
  font-family: 'Atkinson Mono', ui-monospace, monospace;
  font-variant-numeric: tabular-nums;
`;

/** Below this width the parts stack: a tablet held upright, a phone. */
export const upright = '@media (max-width: 980px)';
export const phone = '@media (max-width: 560px)';
