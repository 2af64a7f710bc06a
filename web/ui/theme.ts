'use client'

import { createGlobalStyle } from 'styled-components'

/**
 * Daylight: near-white ground, near-black ink, one marking-paint accent for what is now; hazard amber with ink for what
 * stops. Night for the cab. Everything else is line weight and hatch.
 */
export const GlobalStyle = createGlobalStyle`
  :root, [data-theme='day'] {
    color-scheme: light;
    --ground: #fbfaf6; --panel: #ffffff; --ink: #14181b; --soft: #4a5156; --line: #b9b8b0; --faint: #e9e7df;
    --now: #a1005b; --on-now: #ffffff; --stop: #ffc61a; --on-stop: #14181b; --done: #6f777c; --unit: #f1efe8; --good: #14502d; --set: #cdd0d1; --cut: #fffdf2;
  }
  [data-theme='night'] {
    color-scheme: dark;
    --ground: #101416; --panel: #171c1f; --ink: #f0ece3; --soft: #b9bcb9; --line: #4b5357; --faint: #22292d;
    --now: #ff8cc3; --on-now: #16060f; --stop: #ffc61a; --on-stop: #14181b; --done: #8b9499; --unit: #20272b; --good: #9fdcb5; --set: #59646a; --cut: #2f3a33;
  }
  * { box-sizing: border-box; }
  html { -webkit-text-size-adjust: 100%; }
  /* Until the page answers to touch a press is not taken and lost: it goes nowhere, and can be seen to. */
  html:not([data-ready]) :is(button, label, [role='button'], [role='slider']) { pointer-events: none; cursor: progress; }
  body { margin: 0; background: var(--ground); color: var(--ink); font: 400 16px/1.4 'Archivo Variable', system-ui, sans-serif; font-variant-numeric: tabular-nums; }
  h1, h2, h3 { font-weight: 650; line-height: 1.15; margin: 0; text-wrap: balance; }
  h1 { font-size: 26px; } h2 { font-size: 20px; } h2.minor { font-size: 16px; }
  p { margin: 0; }
  a { color: inherit; text-underline-offset: 3px; }
  :focus-visible, [data-focus-visible] { outline: 3px solid var(--now); outline-offset: 2px; }
  table { border-collapse: collapse; width: 100%; }
  th { text-align: left; font: 500 14px/1.2 'Barlow Condensed', sans-serif; letter-spacing: .02em; color: var(--soft); padding: 6px 8px; border-bottom: 2px solid var(--ink); vertical-align: bottom; }
  td { padding: 6px 8px; border-bottom: 1px solid var(--faint); vertical-align: top; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { animation: none !important; transition: none !important; } }
  @media (pointer: coarse), (max-width: 640px) { td a, li > a:first-child, li a:only-child, li div > a, summary { display: inline-flex; align-items: center; min-height: 48px; min-width: 48px; } summary { display: list-item; padding-top: 12px; } }
  @media print { :root, [data-theme] { --ground: #fff; --panel: #fff; --ink: #000; --soft: #333; --faint: #ddd; --unit: #f4f4f4; } .noprint { display: none !important; } }
  @media not print { .printed { display: none; } }
`
