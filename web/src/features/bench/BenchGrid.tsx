import { type KeyboardEvent, useRef } from 'react';
import { Table } from 'react-bootstrap';
import type { BenchColumn, BenchRow } from '../../api/client';
import { count } from '../../shared/format';
import { isSame } from './benchRows';
import { Thumb } from './Thumb';

/** A cell by the name of its material and its channel. */
export interface Place {
  material: string;
  channel: string;
}

interface Props {
  id: string;
  columns: BenchColumn[];
  rows: BenchRow[];
  chosen: Place | null;
  onChoose: (place: Place) => void;
  onTakeAway: (place: Place) => void;
}

const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
};

/** Materials down, channels across; arrows go from cell to cell, Enter opens one, Delete empties it. */
export function BenchGrid({ id, columns, rows, chosen, onChoose, onTakeAway }: Props) {
  const body = useRef<HTMLTableSectionElement>(null);
  const start = rows.some((r) => r.name === chosen?.material)
    ? chosen
    : { material: rows[0]?.name, channel: columns[0]?.channel };

  const onKey = (event: KeyboardEvent, row: number, column: number) => {
    const move = MOVES[event.key];
    if (move) {
      event.preventDefault();
      const line = body.current?.rows[row + move[0]];
      line?.querySelectorAll('button')[column + move[1]]?.focus();
    } else if (event.key === 'Delete') {
      event.preventDefault();
      onTakeAway({ material: rows[row]?.name ?? '', channel: columns[column]?.channel ?? '' });
    }
  };
  return (
    <Table className="bench-grid">
      <thead>
        <tr>
          <th>Material</th>
          {columns.map((c) => (
            <th key={c.channel} title={c.space === 'sRGB' ? 'Colour, sRGB' : 'Data, linear'}>
              {c.label}
              <small>{c.space}</small>
            </th>
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {rows.map((row, r) => (
          <tr key={row.farId} data-chosen={row.name === chosen?.material}>
            <th scope="row">
              {row.name || <em>no name</em>}
              <small>{row.faces > 0 ? `${count(row.faces)} faces` : 'no face has it'}</small>
            </th>
            {row.cells.map((cell, c) => {
              const same = isSame(cell.near, cell.far);
              const isChosen = row.name === chosen?.material && cell.channel === chosen?.channel;
              const isStart = row.name === start?.material && cell.channel === start?.channel;
              const care = cell.far?.care ?? '';
              return (
                <td key={cell.channel}>
                  <button
                    type="button"
                    className="bench-cell"
                    aria-pressed={isChosen}
                    data-care={care !== ''}
                    data-same={same}
                    tabIndex={isStart ? 0 : -1}
                    title={care || cell.far?.image || cell.far?.factor || 'nothing here'}
                    aria-label={`${row.name}, ${columns[c]?.label}: ${
                      cell.far?.image || cell.far?.factor || 'nothing'
                    }${care ? `. ${care}` : ''}`}
                    onKeyDown={(e) => onKey(e, r, c)}
                    onClick={() => onChoose({ material: row.name, channel: cell.channel })}
                  >
                    {!same && (
                      <>
                        <Thumb id={id} slot={cell.near} size={22} />
                        <span className="bench-arrow" aria-hidden="true">
                          ›
                        </span>
                      </>
                    )}
                    <Thumb id={id} slot={cell.far} size={34} />
                    {cell.far?.part && <span className="bench-part">{cell.far.part}</span>}
                  </button>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
