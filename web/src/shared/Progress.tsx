import { ProgressBar } from 'react-bootstrap';

interface ProgressProps {
  /** What is under way, for those who hear the page. */
  label: string;
  /** How far it is: 0 to 1. */
  fraction: number;
}

/** A bar of progress whose name sits on the bar itself: on the frame around it no reader finds it. */
export function Progress({ label, fraction }: ProgressProps) {
  return (
    <div className="progress">
      <ProgressBar isChild now={100 * fraction} aria-label={label} />
    </div>
  );
}
