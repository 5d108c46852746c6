import type { FindingView, HandlingState } from '../../../api/client';

/** Whether a step in effect answers a finding. */
export function isSolved(finding: FindingView, handling: HandlingState | undefined): boolean {
  const kinds = new Set(
    (handling?.steps ?? [])
      .filter((s) => s.step.enabled && s.failure === null)
      .map((s) => s.step.kind),
  );
  return finding.offers.some((o) => o.action === 'step' && kinds.has(o.kind));
}

/** Findings of a severity that nothing answers yet. */
export function openCount(
  findings: FindingView[],
  handling: HandlingState | undefined,
  severity: FindingView['severity'],
): number {
  return findings.filter((f) => f.severity === severity && !isSolved(f, handling)).length;
}
