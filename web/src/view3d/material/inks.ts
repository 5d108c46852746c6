/** A colour for each number, as CSS takes it: hues spread by the golden ratio; grey below 0. */
export function inkOf(number: number): string {
  if (number < 0) {
    return '#8d8f8e';
  }
  const hue = (number * 0.61803398875 + 0.47) % 1;
  return `hsl(${Math.round(360 * hue)}, 42%, 52%)`;
}
