/** In a page there are no paths of a disk: whoever writes a scenario says how files are named in it. */
export function relative(): never {
  throw new Error('a page knows no folders');
}
