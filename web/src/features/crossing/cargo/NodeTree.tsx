import { useEffect, useRef, useState } from 'react';
import { useView } from '../../../view3d/viewState';
import type { TreeRow } from './treeRows';
import { useShownHeight } from './useShownHeight';

const ROW = 24;
const SPARE = 12;

interface Props {
  rows: TreeRow[];
  counts: Map<number, number>;
  onToggle: (nodeId: number) => void;
}

/** The tree of parts; only the rows in sight are made, so that twenty thousand stay fluent. */
export function NodeTree({ rows, counts, onToggle }: Props) {
  const selected = useView((s) => s.selected);
  const hidden = useView((s) => s.hidden);
  const set = useView((s) => s.set);
  const box = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [cursor, setCursor] = useState(0);
  const height = useShownHeight(box);
  const chosen = new Set(selected);
  const away = new Set(hidden);

  const show = (place: number) => {
    const el = box.current;
    if (el) {
      if (place * ROW < el.scrollTop) {
        el.scrollTop = place * ROW;
      } else if ((place + 1) * ROW > el.scrollTop + el.clientHeight) {
        el.scrollTop = (place + 1) * ROW - el.clientHeight;
      }
    }
  };
  // What is picked in a view is scrolled into sight here.
  const only = selected.length === 1 ? selected[0] : undefined;
  useEffect(() => {
    const place = rows.findIndex((r) => r.node.id === only);
    if (place >= 0) {
      setCursor(place);
      show(place);
    }
  }, [only]);

  const choose = (place: number, add: boolean, range: boolean) => {
    const row = rows[place];
    if (!row) {
      return;
    }
    const id = row.node.id;
    if (range) {
      const [from, to] = [Math.min(cursor, place), Math.max(cursor, place)];
      set({ selected: rows.slice(from, to + 1).map((r) => r.node.id) });
    } else if (add) {
      set({ selected: chosen.has(id) ? selected.filter((s) => s !== id) : [...selected, id] });
    } else {
      set({ selected: [id] });
    }
    if (!range) {
      setCursor(place);
    }
    show(place);
  };
  const key = (e: React.KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15 }[e.key];
    const row = rows[cursor];
    if (step) {
      e.preventDefault();
      choose(Math.max(0, Math.min(rows.length - 1, cursor + step)), false, false);
    } else if (row?.children && (e.key === 'ArrowLeft' || e.key === 'ArrowRight')) {
      e.preventDefault();
      if (row.open === (e.key === 'ArrowLeft')) {
        onToggle(row.node.id);
      }
    } else if (e.key === ' ') {
      e.preventDefault();
      choose(cursor, true, false);
    }
  };
  const first = Math.max(0, Math.floor(top / ROW) - SPARE);
  const last = Math.min(rows.length, Math.ceil((top + height) / ROW) + SPARE);
  return (
    <div
      className="tree"
      role="tree"
      aria-multiselectable
      aria-label="Parts"
      tabIndex={0}
      ref={box}
      onScroll={(e) => setTop(e.currentTarget.scrollTop)}
      onKeyDown={key}
    >
      <div style={{ height: rows.length * ROW, position: 'relative' }}>
        {rows.slice(first, last).map((row, i) => {
          const marks = counts.get(row.node.id) ?? 0;
          const place = first + i;
          return (
            // biome-ignore lint/a11y/useKeyWithClickEvents: the tree itself takes the keys
            <div
              key={row.node.id}
              role="treeitem"
              aria-selected={chosen.has(row.node.id)}
              aria-level={row.depth + 1}
              aria-expanded={row.children ? row.open : undefined}
              tabIndex={-1}
              className="tree-row"
              style={{ top: place * ROW }}
              title={row.node.path}
              onClick={(e) => choose(place, e.ctrlKey || e.metaKey, e.shiftKey)}
            >
              <span style={{ width: row.depth * 12 }} />
              {row.children ? (
                <button
                  type="button"
                  tabIndex={-1}
                  aria-label={row.open ? 'Close' : 'Open'}
                  onClick={(e) => {
                    e.stopPropagation();
                    onToggle(row.node.id);
                  }}
                >
                  {row.open ? '–' : '+'}
                </button>
              ) : (
                <span style={{ width: 12 }} />
              )}
              <span
                className={`name ${away.has(row.node.id) || !row.node.drawn ? 'hidden-part' : ''}`}
              >
                {row.node.name || '(no name)'}
              </span>
              <span className="kind">
                {away.has(row.node.id)
                  ? 'hidden'
                  : row.node.drawn
                    ? row.node.kind
                    : 'hidden in the file'}
              </span>
              {marks > 0 && <b className="loss small">{marks}</b>}
            </div>
          );
        })}
      </div>
    </div>
  );
}
