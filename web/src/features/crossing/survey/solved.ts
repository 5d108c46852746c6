import type { FindingView } from '../../../api/client';

/** Whether the far side no longer has what was found; the server surveys both sides. */
export function isSolved(finding: FindingView): boolean {
  return finding.state === 'answered';
}

/** Whether its first offer may be accepted together with others: it takes nothing away. */
export function isSafe(finding: FindingView): boolean {
  return finding.offers[0] !== undefined && !finding.offers[0].asks;
}

/** Findings of a severity that are still there, or that steps brought about. */
export function openCount(findings: FindingView[], severity: FindingView['severity']): number {
  return findings.filter((f) => f.severity === severity && !isSolved(f)).length;
}
