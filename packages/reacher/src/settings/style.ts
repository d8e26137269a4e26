/** How the settings look, by custom properties that a page may set. Constants. */
import { css } from "lit";

export const style = css`
  :host {
    --_ink: var(--reacher-ink, #e8f1f2);
    --_ground: var(--reacher-ground, #10222b);
    --_raised: var(--reacher-raised, #1b3743);
    --_line: var(--reacher-line, #5b7f8c);
    --_accent: var(--reacher-accent, #ffb454);
    display: block;
    padding: 1rem;
    overflow: auto;
    color: var(--_ink);
    background: var(--_ground);
    font: var(--reacher-font, 16px/1.4 system-ui, sans-serif);
  }
  :host([hidden]) {
    display: none;
  }
  h2 {
    margin: 1.2rem 0 0.4rem;
    font-size: 1.15em;
  }
  h2:first-child {
    margin-top: 0;
  }
  .scroll {
    overflow-x: auto;
  }
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th {
    text-align: start;
    font-weight: 600;
    padding: 0.25rem 0.75rem 0.25rem 0;
  }
  td {
    padding: 0.2rem 0.4rem 0.2rem 0;
  }
  tr {
    border-block-end: 1px solid color-mix(in srgb, var(--_line) 40%, transparent);
  }
  button,
  select,
  input[type="text"] {
    min-height: 2.2em;
    margin: 0.1rem;
    padding: 0.2em 0.7em;
    border: 1px solid var(--_line);
    border-radius: 0.35em;
    color: inherit;
    background: var(--_raised);
    font: inherit;
  }
  button:disabled {
    opacity: 0.5;
  }
  :focus-visible {
    outline: 3px solid var(--_accent);
    outline-offset: 1px;
  }
  .changed {
    border-color: var(--_accent);
  }
  .part {
    margin-inline-end: 0.4em;
  }
  .clash,
  .fault {
    color: var(--_accent);
  }
  fieldset {
    margin: 0 0 0.8rem;
    padding: 0;
    border: 0;
    max-width: 46rem;
  }
  legend {
    padding: 0;
    font-weight: 600;
  }
  .setting {
    display: grid;
    grid-template-columns: 2fr 3fr 4em auto;
    gap: 0.6rem;
    align-items: center;
    margin: 0.2rem 0;
  }
  input[type="range"] {
    accent-color: var(--_accent);
    width: 100%;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 0.3rem;
    align-items: center;
    margin-block: 0.8rem 0;
  }
  dialog {
    box-sizing: border-box;
    width: min(26em, calc(100vw - 2rem));
    border: 1px solid var(--_line);
    border-radius: 0.6em;
    padding: 1.2rem;
    color: inherit;
    background: var(--_ground);
  }
  dialog::backdrop {
    background: rgb(0 0 0 / 60%);
  }
  dialog h2 {
    margin: 0;
  }
  .choices {
    display: grid;
    gap: 0.3rem;
  }
  @media (width < 30em) {
    :host {
      padding: 0.6rem;
    }
    .setting {
      grid-template-columns: 1fr auto;
    }
    .setting > :first-child {
      grid-column: 1 / -1;
    }
  }
`;
