import type { Offer } from '../../../api/client';
import { Button } from '../../../shared/Button';
import type { Row } from './bundles';
import { LOOK } from './FindingRow';
import { isSolved } from './solved';

interface Props {
  row: Row;
  open: boolean;
  onToggle: () => void;
  onAccept: (offers: Offer[]) => void;
}

/** Several findings of one kind and cause; opened, each has its row below. */
export function BundleRow({ row, open, onToggle, onAccept }: Props) {
  const first = row.findings[0];
  if (!first) {
    return null;
  }
  const offers = row.findings.flatMap((f) => f.offers.slice(0, 1));
  const answered = isSolved(first);
  return (
    <tr
      data-code={first.code}
      data-state={first.state}
      data-count={row.findings.length}
      tabIndex={0}
      aria-expanded={open}
      className={answered ? 'solved' : ''}
      onClick={onToggle}
      onKeyDown={(e) => e.key === 'Enter' && e.target === e.currentTarget && onToggle()}
    >
      <td>
        <span className={`mark mark-${LOOK[first.severity]}`} aria-hidden />
        <span className="pill pill-plain">{row.findings.length} ×</span> {first.message}
      </td>
      <td title={row.findings.map((f) => f.where).join(', ')}>
        {first.where} and {row.findings.length - 1} more
      </td>
      <td className="num" />
      <td className="quiet">{open ? 'each below' : 'open to see each'}</td>
      <td>
        {answered ? (
          <span className="pill pill-kept">answered</span>
        ) : (
          offers[0] && (
            <Button
              variant="link"
              className="py-0 text-decoration-underline"
              onClick={(e) => {
                e.stopPropagation();
                onAccept(offers);
              }}
            >
              {offers.every((o) => o.label === offers[0]?.label)
                ? `${offers[0].label}, all ${offers.length}`
                : `Accept all ${offers.length}`}
            </Button>
          )
        )}
      </td>
    </tr>
  );
}
