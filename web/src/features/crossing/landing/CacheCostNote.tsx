import type { CacheCost, Offer } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { bytes, count } from '../../../shared/format';

interface Props {
  cost: CacheCost;
  onAccept: (offer: Offer) => void;
}

/** What playing the caches takes, whatever the format, and what would take less. */
export function CacheCostNote({ cost, onAccept }: Props) {
  if (cost.caches === 0) {
    return null;
  }
  return (
    <div className="cache-cost">
      <p>
        <b>
          {count(cost.caches)} {cost.caches === 1 ? 'cache' : 'caches'}: {bytes(cost.bytes)}
        </b>{' '}
        of positions, {bytes(cost.bytesPerSecond)} to decode for each second that plays.
      </p>
      <ul>
        {cost.forms.map((form) => (
          <li key={form.label}>
            <span>
              {form.label}: <b>{bytes(form.bytes)}</b>{' '}
              <Button
                variant="link"
                className="p-0 text-decoration-underline"
                onClick={() => onAccept(form.offer)}
              >
                {form.offer.label}
              </Button>
            </span>
            <span className="quiet">{form.how}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
