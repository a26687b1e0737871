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
  --limit-ink: #583f09;
  --now: #981d67;
  --now-paper: #fef8fc;
  --on-now: #ffffff;
  --caution: #7b4000;
  --caution-paper: #fff1d6;
  --warning: #990d16;
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
  --ink: #d2cab7;
  --soft: #a7aea6;
  --line: #24343a;
  --hair: #1c2a30;
  --deep: #0d191e;
  --grid: #17262c;
  --usual1: #14303a;
  --usual2: #1c4452;
  --usual3: #28596a;
  --track: #6fb3c6;
  --limit-fill: #413212;
  --limit-hatch: #6b5522;
  --band1: #1f1b10;
  --band2: #2a2413;
  --limit-edge: #c7a458;
  --limit-ink: #d9bd7d;
  --now: #e88fc4;
  --now-paper: #1d1520;
  --on-now: #23091a;
  --caution: #e9a94c;
  --caution-paper: #2e210d;
  --warning: #ff8a83;
  --warning-paper: #331314;
  --rail: #060d11;
  --rail-ink: #b9c2bd;
  --rail-on: #1c2c33;
  --rail-on-ink: #d2cab7;
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

/** Where there is less room than so much text, the parts stack: a tablet held upright, a phone, large letters on a desk. */
export const narrower = (than_rem: number): string => `@container page (max-width: ${than_rem}rem)`;
export const upright = narrower(61.25);
export const phone = narrower(35);
/** A phone with large letters: words that an icon tells are left to it. */
export const tiny = narrower(20);

export const GlobalStyle = createGlobalStyle`
  :root { ${day} }
  @media (prefers-color-scheme: dark) { :root { ${night} } }
  @media (prefers-contrast: more) { :root { ${sun} } }
  :root[data-light='day'] { ${day} }
  :root[data-light='night'] { ${night} }
  :root[data-light='sun'] { ${sun} }
  *, *::before, *::after { box-sizing: border-box; margin: 0; }
  html, body, #root { height: 100%; }
  /* all that is written is sized in rem: the browser's own size of text, times what the settings say */
  html { font-size: calc(100% * var(--text-size, 1)); }
  body {
    container: page / inline-size;
    font: 0.9375rem/1.35 'Atkinson Next', system-ui, sans-serif;
    color: var(--ink);
    background: var(--paper);
    -webkit-font-smoothing: antialiased;
  }
  /* large letters on a small screen: everything may go on in the next line */
  ${tiny} { #root { overflow-wrap: anywhere; } #root *:not(pre, code, textarea, select, time, [data-clock]) { white-space: normal !important; }
    /* what cannot go on in the next line is as large as the screen lets it be */
    #root select { font-size: min(1rem, 4cqi) !important; } }
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
