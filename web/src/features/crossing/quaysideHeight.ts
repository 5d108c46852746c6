import type { Stop } from './RouteLine';

/** Lowest height in pixels: a head and a row. */
export const LOWEST = 90;

/** What the views above keep at least. */
const ABOVE = 240;

/** Part of the window that a stop's table takes until the user says otherwise. */
const STANDARD: Record<Stop, number> = {
  cargo: 0.3,
  survey: 0.38,
  handling: 0.34,
  landing: 0.46,
  proof: 0.42,
};

/**
 * What a table takes at most while a step is open above it: a form of ten fields then needs no
 * scroll. A landing and its proof are forms themselves and keep their room.
 */
const BELOW_A_FORM: Partial<Record<Stop, number>> = { cargo: 0.16, survey: 0.16, handling: 0.16 };

const KEY = 'quayside-heights';

/** The tallest that a window has room for. */
export function tallest(windowHeight: number): number {
  return Math.max(LOWEST, windowHeight - ABOVE);
}

/** A height that the window has room for. */
export function fitting(height: number, windowHeight: number): number {
  return Math.round(Math.max(LOWEST, Math.min(tallest(windowHeight), height)));
}

/** The height of a stop's table without a choice of the user. */
export function standard(stop: Stop, windowHeight: number, formOpen = false): number {
  const part = (formOpen && BELOW_A_FORM[stop]) || STANDARD[stop];
  return fitting(part * windowHeight, windowHeight);
}

/** The heights that the user chose, by stop; kept in the browser. */
export function chosen(storage: Pick<Storage, 'getItem'>): Partial<Record<Stop, number>> {
  try {
    const kept: unknown = JSON.parse(storage.getItem(KEY) ?? '{}');
    const result: Partial<Record<Stop, number>> = {};
    for (const [stop, height] of Object.entries(kept as Record<string, unknown>)) {
      if (stop in STANDARD && typeof height === 'number' && Number.isFinite(height)) {
        result[stop as Stop] = height;
      }
    }
    return result;
  } catch {
    // What others wrote there is no choice of the user.
    return {};
  }
}

/** Keeps a choice, or forgets it. */
export function keep(
  storage: Pick<Storage, 'getItem' | 'setItem'>,
  stop: Stop,
  height: number | null,
) {
  const all = chosen(storage);
  if (height === null) {
    delete all[stop];
  } else {
    all[stop] = height;
  }
  try {
    storage.setItem(KEY, JSON.stringify(all));
  } catch {
    // Without room to keep it, it holds until the page is left.
  }
}
