import type { FindingView } from '../../../api/client';

/** Whether the far side no longer has what was found; the server surveys both sides. */
export function isSolved(finding: FindingView): boolean {
  return finding.state === 'answered';
}

/** Findings of a severity that are still there, or that steps brought about. */
export function openCount(findings: FindingView[], severity: FindingView['severity']): number {
  return findings.filter((f) => f.severity === severity && !isSolved(f)).length;
}
