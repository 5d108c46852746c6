import type { FindingView } from '../../../api/client';

/** So many findings of one kind and cause are one row. */
export const LEAST = 3;

/** One finding, or several of one kind and cause that are shown as one. */
export interface Row {
  key: string;
  findings: FindingView[];
}

/** The rows of a list, each where its first finding stands. */
export function rowsOf(findings: FindingView[]): Row[] {
  const key = (f: FindingView) => `${f.bundle}|${f.state}`;
  const counts = new Map<string, number>();
  for (const f of findings) {
    counts.set(key(f), (counts.get(key(f)) ?? 0) + 1);
  }
  const rows: Row[] = [];
  const byKey = new Map<string, Row>();
  for (const f of findings) {
    const many = (counts.get(key(f)) ?? 0) >= LEAST;
    const known = many ? byKey.get(key(f)) : undefined;
    if (known) {
      known.findings.push(f);
      continue;
    }
    const row = { key: many ? key(f) : String(f.index), findings: [f] };
    rows.push(row);
    byKey.set(key(f), row);
  }
  return rows;
}
