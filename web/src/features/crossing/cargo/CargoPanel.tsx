import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Form } from 'react-bootstrap';
import { queries } from '../../../api/queries';
import { count } from '../../../shared/format';
import { isSolved } from '../survey/solved';
import { isolation } from '../useCrossingKeys';
import { NodeTree } from './NodeTree';
import { PartFacts } from './PartFacts';
import { outsideOf, visibleRows } from './treeRows';
import './cargo.css';

/** The cargo list: all parts, linked with the views, and the facts of the selection. */
export function CargoPanel({ id, ready }: { id: string; ready: boolean }) {
  const near = useQuery({ ...queries.near(id), enabled: ready });
  const survey = useQuery({ ...queries.survey(id), enabled: ready });
  const [wanted, setWanted] = useState('');
  const [closed, setClosed] = useState<Set<number>>(new Set());
  const nodes = useMemo(() => near.data?.nodes ?? [], [near.data]);
  const rows = useMemo(() => visibleRows(nodes, closed, wanted), [nodes, closed, wanted]);
  const counts = useMemo(() => {
    const marks = new Map<number, number>();
    for (const f of survey.data?.findings ?? []) {
      if (f.severity !== 'NOTE' && !isSolved(f)) {
        for (const n of f.nodeIds) {
          marks.set(n, (marks.get(n) ?? 0) + 1);
        }
      }
    }
    return marks;
  }, [survey.data]);
  useEffect(() => {
    isolation.others = (selected) => outsideOf(nodes, selected);
  }, [nodes]);
  return (
    <aside className="side-panel" aria-label="Cargo list">
      <div className="side-panel-head">
        <h2 className="caps">Cargo list</h2>
        <span className="quiet">
          {nodes.length === 1 ? '1 part' : `${count(nodes.length)} parts`}
        </span>
      </div>
      <div className="find">
        <Form.Control
          id="find-part"
          value={wanted}
          placeholder="Find a part"
          aria-label="Find a part"
          onChange={(e) => setWanted(e.target.value)}
        />
        <kbd>/</kbd>
      </div>
      <NodeTree
        rows={rows}
        counts={counts}
        onToggle={(node) =>
          setClosed((s) => {
            const next = new Set(s);
            if (!next.delete(node)) {
              next.add(node);
            }
            return next;
          })
        }
      />
      {ready && rows.length === 0 && wanted && (
        <p className="empty-note">No part has “{wanted}” in its name.</p>
      )}
      {near.data && survey.data && (
        <PartFacts crossingId={id} side={near.data} survey={survey.data} />
      )}
    </aside>
  );
}
