import { Table } from 'react-bootstrap';
import type { BenchPut, LooseImage } from '../../api/client';
import { Button } from '../../shared/Button';
import { bytes } from '../../shared/format';

interface Props {
  id: string;
  loose: LooseImage[];
  onPut: (puts: BenchPut[]) => void;
  onPutAll: () => void;
}

/** Images that no material uses, where they fit and why; one, those of a material, or all are put on. */
export function LooseImages({ id, loose, onPut, onPutAll }: Props) {
  const fitting = loose.filter((l) => l.fits.length > 0);
  const materials = [...new Set(fitting.flatMap((l) => l.fits.map((f) => f.material)))];
  const puts = (of: (material: string) => boolean) =>
    fitting.flatMap((l) =>
      l.fits
        .filter((f) => of(f.material))
        .map((f) => ({ material: f.material, channel: f.channel, image: f.binding })),
    );
  return (
    <section className="loose" aria-label="Loose images">
      <header>
        <h2 className="caps">Loose images</h2>
        <span className="pill pill-plain">
          {fitting.length} of {loose.length} fit
        </span>
        <span className="end">
          {materials.length > 1 &&
            materials.slice(0, 4).map((m) => (
              <Button
                key={m}
                variant="outline-secondary"
                title={`Put those that fit ${m}`}
                onClick={() => onPut(puts((name) => name === m))}
              >
                {m}
              </Button>
            ))}
          <Button disabled={fitting.length === 0} onClick={onPutAll}>
            Put all that fit
          </Button>
        </span>
      </header>
      <div className="loose-body">
        <Table>
          <thead>
            <tr>
              <th>Image</th>
              <th>Looks like</th>
              <th>Fits</th>
              <th className="num">Confidence</th>
              <th>Because</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {loose.map((l) => (
              <tr key={l.image}>
                <td className="loose-name">
                  {l.width > 0 ? (
                    <img
                      className="thumb"
                      loading="lazy"
                      alt=""
                      style={{ width: 26, height: 26 }}
                      src={`/api/crossings/${id}/image-files?path=${encodeURIComponent(l.image)}&size=52`}
                    />
                  ) : (
                    <span className="thumb thumb-lost" style={{ width: 26, height: 26 }}>
                      ?
                    </span>
                  )}
                  {l.image}
                </td>
                <td>
                  {l.looks}, {bytes(l.bytes)}
                </td>
                {l.fits.length > 0 ? (
                  <>
                    <td>{l.fits.map((f) => `${f.material} · ${f.label}`).join(', ')}</td>
                    <td className="num">{Math.round(100 * (l.fits[0]?.confidence ?? 0))} %</td>
                    <td>{l.fits[0]?.reasons.join(', ')}</td>
                    <td>
                      <Button
                        variant="outline-secondary"
                        aria-label={`Put ${l.image} on`}
                        onClick={() =>
                          onPut(
                            l.fits.map((f) => ({
                              material: f.material,
                              channel: f.channel,
                              image: f.binding,
                            })),
                          )
                        }
                      >
                        Put it on
                      </Button>
                    </td>
                  </>
                ) : (
                  <td colSpan={4} className="quiet">
                    {l.why}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </section>
  );
}
