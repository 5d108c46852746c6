import type { FindingView, Offer } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { isSolved } from './solved';

export const LOOK = { FIX: 'loss', LOOK: 'change', NOTE: 'plain' } as const;

interface Props {
  finding: FindingView;
  open: boolean;
  picked: boolean;
  /** Findings of the same kind that can be put right together. */
  alike: FindingView[];
  onShow: () => void;
  onAccept: (offers: Offer[]) => void;
}

/** One finding; opened it shows all it rests on and every way to put it right. */
export function FindingRow({ finding: f, open, picked, alike, onShow, onAccept }: Props) {
  const answered = isSolved(f);
  return (
    <tr
      data-code={f.code}
      data-state={f.state}
      tabIndex={0}
      className={`${open ? 'open' : ''} ${answered ? 'solved' : ''} ${picked ? 'picked' : ''}`}
      onClick={onShow}
      onKeyDown={(e) => e.key === 'Enter' && e.target === e.currentTarget && onShow()}
    >
      <td>
        <span className={`mark mark-${LOOK[f.severity]}`} aria-hidden />
        {f.state === 'arisen' && <span className="pill pill-change">by a step</span>} {f.message}
      </td>
      <td title={f.where}>{f.where}</td>
      <td className="num">{f.measured}</td>
      <td className="quiet">{f.evidence}</td>
      <td>
        {answered ? (
          <span className="pill pill-kept">answered</span>
        ) : (
          f.offers.slice(0, open ? 4 : 1).map((o) => (
            <Button
              key={o.label}
              variant="link"
              className="py-0 me-3 text-decoration-underline"
              title={o.first[0] ? `First: ${o.first[0].label}` : undefined}
              onClick={(e) => {
                e.stopPropagation();
                onAccept([o]);
              }}
            >
              {o.label}
            </Button>
          ))
        )}
        {open && !answered && alike.length > 1 && (
          <Button
            variant="link"
            className="py-0 text-decoration-underline"
            onClick={(e) => {
              e.stopPropagation();
              onAccept(alike.flatMap((x) => x.offers.slice(0, 1)));
            }}
          >
            All {alike.length} of this kind
          </Button>
        )}
      </td>
    </tr>
  );
}
