/** A count with thin spaces between thousands. */
export function count(value: number): string {
  return Math.round(value)
    .toString()
    .replace(/\B(?=(\d{3})+(?!\d))/g, '\u2009');
}

/** Bytes in the unit that reads best. */
export function bytes(value: number): string {
  if (value < 1000) {
    return `${value} B`;
  }
  const [size, unit] =
    value < 1e6 ? [value / 1e3, 'kB'] : value < 1e9 ? [value / 1e6, 'MB'] : [value / 1e9, 'GB'];
  return `${size < 10 ? size.toFixed(2) : size < 100 ? size.toFixed(1) : size.toFixed(0)} ${unit}`;
}

/** A number to four digits without trailing zeros. */
export function plain(value: number): string {
  return value === 0 ? '0' : Number(value.toPrecision(4)).toString();
}

/** Metres in the unit that reads best. */
export function metres(value: number): string {
  const size = Math.abs(value);
  if (size >= 1000) {
    return `${plain(value / 1000)} km`;
  }
  return size >= 0.1 || size === 0 ? `${plain(value)} m` : `${plain(value * 1000)} mm`;
}

/** The first of 1, 2.5, 5 times a power of ten that is not below a length. */
export function niceStep(length: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(length, 1e-12)));
  for (const factor of [1, 2.5, 5, 10]) {
    if (factor * power >= length * 0.999) {
      return factor * power;
    }
  }
  return 10 * power;
}

/** How long something took; nothing while it has not ended. */
export function took(from: string, to: string | null | undefined): string {
  const seconds = to ? (new Date(to).getTime() - new Date(from).getTime()) / 1000 : Number.NaN;
  if (!(seconds >= 0)) {
    return '';
  }
  return seconds < 60
    ? `${seconds < 10 ? seconds.toFixed(1) : Math.round(seconds)} s`
    : `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}

/** A moment as people say it. */
export function when(iso: string, now = new Date()): string {
  const then = new Date(iso);
  const time = then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  const days = Math.floor(
    (startOfDay(now).getTime() - startOfDay(then).getTime()) / 86_400_000 + 0.5,
  );
  if (days <= 0) {
    return `today ${time}`;
  }
  return days === 1
    ? `yesterday ${time}`
    : then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
}

function startOfDay(date: Date): Date {
  return new Date(date.getFullYear(), date.getMonth(), date.getDate());
}
