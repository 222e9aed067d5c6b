/** Of an angle in degrees, 0 to 180: by its series, since engines differ in the last bit of their own. */
export function cosine(degrees: number): number {
  if (degrees > 90) return -cosine(180 - degrees);
  if (degrees === 90) return 0;
  const square = (degrees / 180) * (degrees / 180) * 9.869604401089358;
  let sum = 1;
  let term = 1;
  for (let n = 2; n <= 24; n += 2) {
    term = (-term * square) / (n * (n - 1));
    sum += term;
  }
  return sum;
}
