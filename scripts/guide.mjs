/** What the examples of the guide leave out: an input of each kind, and a stance on the ground and in the air. */
export const SMALL = `
loggia: 1
name: Pell
inputs:
  move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }
  jump: { button: Space }
  gaff: { button: KeyJ }
  gale: { button: KeyF }
stances:
  stand: { when: grounded, tags: floor }
  fall: { tags: air }
`;

/** Fenced fragments of a page: their language, what follows it, and their text. */
export function fragmentsOf(page) {
  return [...page.matchAll(/^```(\w+)([^\n]*)\n([\s\S]*?)^```$/gm)].map(([, language, info, text]) => ({
    language,
    info: info.trim(),
    text,
  }));
}

/** An example as a whole moveset. */
export function wholeMoveset(text) {
  return /^loggia:/m.test(text) ? text : SMALL + text;
}
