import { escapeText } from '../report/words.js';

/** The face of all text in pictures: one that comes with the command line, and what is like it. */
export const FACE = '"IBM Plex Sans", "DejaVu Sans", Verdana, sans-serif';

/** Text of any origin within HTML or SVG, also within the quotes of an attribute. */
export function escapeMarkup(text: string): string {
  return escapeText(text).replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
}

/** A page by itself: nothing is fetched, and nothing runs but `script`. */
export function wholePage(title: string, style: string, body: string, script = ''): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'; img-src data:">
<link rel="icon" href="data:,">
<title>${escapeMarkup(title)}</title>
<style>
${COLORS}
body { margin: 0; padding: 20px 24px; background: var(--page); color: var(--ink); font: 14px/1.45 "DejaVu Sans", Verdana, sans-serif; }
h1 { font-size: 20px; margin: 0 0 4px; }
p { margin: 0 0 12px; color: var(--soft); }
${style}
</style>
</head>
<body>
${body}
${script && `<script>\n${script}\n</script>\n`}</body>
</html>
`;
}

/** Colours by what they are for, light and dark by the system's setting. */
const COLORS = `:root { color-scheme: light dark; --page: #f7f4ec; --ink: #1d2a2e; --soft: #566469; --line: #cfc8b6; --yes: #cfe6d4; --if: #f6e3b0; --no: transparent; --mark: #b4472b; }
@media (prefers-color-scheme: dark) { :root { --page: #122027; --ink: #e9e2cc; --soft: #a2afb0; --line: #34464e; --yes: #24533d; --if: #5d4a17; --no: transparent; --mark: #f08a6c; } }`;
