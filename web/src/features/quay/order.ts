/**
 * The given rows in the order in which they are shown already; rows that came since follow below.
 * So a list that is being pointed at changes under nobody's hand.
 */
export function keepOrder<T extends { id: string }>(shown: string[], rows: T[]): T[] {
  const place = new Map(shown.map((id, i) => [id, i]));
  const at = (row: T) => place.get(row.id) ?? shown.length;
  return [...rows].sort((a, b) => at(a) - at(b));
}
