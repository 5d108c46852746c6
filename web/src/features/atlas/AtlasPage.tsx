import { useQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { ButtonGroup, Form, Table } from 'react-bootstrap';
import type { Atlas } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { ScreenNav } from '../../shared/ScreenNav';
import { TopLine } from '../../shared/TopLine';
import './atlas.css';

type Cell = Atlas['rows'][number]['formats'][number];
const WORDS: Record<Cell['read'], string> = {
  KEPT: 'kept',
  CHANGED: 'changed',
  LOST: 'lost',
  NONE: 'none',
};
const LOOK: Record<Cell['read'], string> = {
  KEPT: 'kept',
  CHANGED: 'change',
  LOST: 'loss',
  NONE: 'plain',
};

/** Said of so many that "lost" says it; the words stand in the cell's title. */
const NONE = 'The format has none.';

/** What each format can carry, drawn from the tables that forecasts and proofs use. */
export default function AtlasPage() {
  const atlas = useQuery(queries.atlas());
  const [wanted, setWanted] = useState('');
  const [away, setAway] = useState<string[]>([]);
  const all = atlas.data?.formats ?? [];
  const formats = all.filter((f) => !away.includes(f.format));
  const rows = (atlas.data?.rows ?? []).filter((r) =>
    `${r.label} ${r.group}`.toLowerCase().includes(wanted.trim().toLowerCase()),
  );
  const groups = [...new Set(rows.map((r) => r.group))];
  return (
    <div className="screen">
      <TopLine left={<ScreenNav />} />
      <main className="quay-list">
        <div className="quay-head">
          <h1>Format atlas</h1>
          <span className="quiet">
            What each format carries as it is read and written here. Forecasts and proofs go by the
            same tables.
          </span>
          <Form.Control
            size="sm"
            placeholder="Find a capability"
            aria-label="Find a capability"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
        </div>
        <ButtonGroup className="atlas-formats" aria-label="Formats shown">
          {all.map((f) => (
            <Button
              key={f.format}
              variant="outline-secondary"
              active={!away.includes(f.format)}
              aria-pressed={!away.includes(f.format)}
              onClick={() =>
                setAway(
                  away.includes(f.format)
                    ? away.filter((k) => k !== f.format)
                    : [...away, f.format],
                )
              }
            >
              {f.label}
            </Button>
          ))}
        </ButtonGroup>
        {atlas.error && <p className="loss">{atlas.error.message}</p>}
        <Table className="atlas">
          <thead>
            <tr>
              <th>What a scene may hold</th>
              {formats.map((f) => (
                <th key={f.format} colSpan={2}>
                  {f.label}
                  <div className="quiet fw-normal">{f.versions}</div>
                </th>
              ))}
            </tr>
            <tr>
              <th aria-label="Capability" />
              {formats.map((f) => (
                <Fragment key={f.format}>
                  <th>read</th>
                  <th>written</th>
                </Fragment>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Unit and axes</td>
              {formats.map((f) => (
                <td key={f.format} colSpan={2} className="quiet small">
                  {f.frames}
                </td>
              ))}
            </tr>
            {groups.map((group) => (
              <Fragment key={group}>
                <tr className="group-row">
                  <td colSpan={1 + 2 * formats.length}>{group}</td>
                </tr>
                {rows
                  .filter((r) => r.group === group)
                  .map((r) => (
                    <tr key={r.capability} data-capability={r.capability}>
                      <td>{r.label}</td>
                      {shown(r.formats, away).map((c) => (
                        <Fragment key={c.format}>
                          <td>
                            <Fate fate={c.read} />
                          </td>
                          <td title={c.how}>
                            <Fate fate={c.written} />
                            {c.written !== 'KEPT' && c.written !== 'NONE' && c.how !== NONE && (
                              <div className="quiet small">{c.how}</div>
                            )}
                          </td>
                        </Fragment>
                      ))}
                    </tr>
                  ))}
              </Fragment>
            ))}
            <LayerRows formats={formats.map((f) => f.format)} wanted={wanted} />
          </tbody>
        </Table>
        {atlas.data && rows.length === 0 && (
          <p className="quiet">No capability has “{wanted}” in its name.</p>
        )}
      </main>
      <footer className="lower-edge">
        <span>
          kept: arrives as it is · changed: arrives in another form · lost: does not arrive · none:
          the format has no such thing, or it is not written here
        </span>
      </footer>
    </div>
  );
}

/** Layers of materials, which were landed and read back rather than looked up. */
function LayerRows({ formats, wanted }: { formats: string[]; wanted: string }) {
  const layers = useQuery(queries.layers());
  const rows = (layers.data ?? []).filter((r) =>
    `${r.label} layers of a material`.includes(wanted.trim().toLowerCase()),
  );
  if (rows.length === 0) {
    return null;
  }
  return (
    <>
      <tr className="group-row">
        <td colSpan={1 + 2 * formats.length}>
          Layers of a material: landed with all of them on a triangle, and read back
        </td>
      </tr>
      {rows.map((r) => (
        <tr key={r.label} data-layer={r.label}>
          <td>{r.label}</td>
          {formats.map((f) => (
            <td key={f} colSpan={2}>
              <Fate fate={r.fates[f] ?? 'NONE'} />
            </td>
          ))}
        </tr>
      ))}
    </>
  );
}

function shown(cells: Cell[], away: string[]): Cell[] {
  return cells.filter((c) => !away.includes(c.format));
}

function Fate({ fate }: { fate: Cell['read'] }) {
  return fate === 'NONE' ? (
    <span className="quiet">—</span>
  ) : (
    <span className={`pill pill-${LOOK[fate]}`}>{WORDS[fate]}</span>
  );
}
