import { useQuery } from '@tanstack/react-query';
import { Table } from 'react-bootstrap';
import type { ForecastItem, LandingOptions } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { useFind } from '../useFind';
import { useHandling } from '../useHandling';
import { CacheCostNote } from './CacheCostNote';

/** What the landing will change or lose, before it is written, with steps that avoid it. */
export function ForecastTable({
  id,
  options,
  onOption,
}: {
  id: string;
  options: LandingOptions;
  onOption: (name: string, value: unknown) => void;
}) {
  const { state, accept } = useHandling(id, true);
  const forecast = useQuery({
    ...queries.forecast(id, state?.revision ?? 0, options),
    enabled: state !== undefined,
    placeholderData: (before) => before,
  });
  const set = useView((s) => s.set);
  const find = useFind(id);
  const items = forecast.data?.items ?? [];
  const lost = items.filter((i) => i.fate === 'LOST').length;
  const show = (item: ForecastItem) => {
    if (item.nodeIds.length > 0) {
      set({ selected: item.nodeIds.slice(0, 200), finding: null });
      window.setTimeout(() => find(), 0);
    }
  };
  return (
    <section className="forecast" aria-label="Forecast">
      <p className="forecast-head">
        <span className="caps">Forecast</span>{' '}
        <span className={`pill ${lost > 0 ? 'pill-loss' : 'pill-plain'}`}>{lost} will be lost</span>{' '}
        <span className="pill pill-change">{items.length - lost} will change</span>{' '}
        {forecast.error && <span className="loss">{forecast.error.message}</span>}
        {forecast.data && items.length === 0 && (
          <span className="quiet">This format on this shore holds everything as it is.</span>
        )}
      </p>
      {forecast.data && (
        <CacheCostNote cost={forecast.data.cost} onAccept={(offer) => accept([offer])} />
      )}
      {items.length > 0 && (
        <Table hover className="m-0">
          <tbody>
            {items.map((item) => (
              <tr
                key={item.capability + item.fate + item.where + item.how}
                data-capability={item.capability}
                tabIndex={0}
                onClick={() => show(item)}
                onKeyDown={(e) => e.key === 'Enter' && show(item)}
              >
                <td>
                  <span className={`pill pill-${item.fate === 'LOST' ? 'loss' : 'change'}`}>
                    {item.fate === 'LOST' ? 'lost' : 'changes'}
                  </span>
                </td>
                <td title={item.where}>
                  {item.label}
                  <div className="quiet">{item.how}</div>
                  {item.offers.map((o) => (
                    <Button
                      key={o.label}
                      variant="link"
                      className="py-0 text-decoration-underline"
                      onClick={(e) => {
                        e.stopPropagation();
                        if (o.action === 'option') {
                          onOption(o.kind, o.params.value);
                        } else {
                          accept([o]);
                        }
                      }}
                    >
                      {o.label}
                    </Button>
                  ))}
                </td>
                <td className="num">{item.measured}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}
