/** The panel's style, independent of the page's. */
export const STYLE = `
:host { all: initial; position: fixed; top: 8px; right: 8px; z-index: 2147483647; max-width: min(320px, 94vw); max-height: 96vh;
  overflow: auto; border-radius: 6px; background: #14181cf2; color: #e8edf0; font: 12px/1.35 system-ui, sans-serif; }
:host([folded]) div, :host([folded]) button + button { display: none; }
section { padding: 6px 8px; }
header { display: flex; gap: 6px; justify-content: space-between; }
button { padding: 2px 8px; border: 1px solid #47525b; border-radius: 4px; background: #262d33; color: inherit; font: inherit; cursor: pointer; }
button:focus-visible { outline: 2px solid #ffd166; }
p { margin: 4px 0 0; }
b, dt { color: #aab6be; font-weight: 500; }
dl { display: grid; grid-template-columns: auto 1fr; gap: 0 10px; margin: 6px 0; font-variant-numeric: tabular-nums; }
dd { margin: 0; }
.on { color: #f2a65a; }
canvas { display: block; width: 100%; image-rendering: pixelated; background: #1d2328; }
`;
