import type { ReactNode } from 'react';

/** The first line of the quayside: what the table is, figures, actions. */
export function QuaysideHead({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="quayside-head">
      <h2 className="caps">{title}</h2>
      {children}
    </div>
  );
}
