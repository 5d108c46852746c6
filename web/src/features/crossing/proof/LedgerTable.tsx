import { useQuery } from '@tanstack/react-query';
import { Fragment, useDeferredValue, useMemo, useState } from 'react';
import { Dropdown, Form, Table } from 'react-bootstrap';
import type { LedgerPage, LedgerRow } from '../../../api/client';
import { type LedgerOf, queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { useView } from '../../../view3d/viewState';
import { useFind } from '../useFind';

export type Verdict = LedgerRow['verdict'];
export const VERDICTS: Verdict[] = ['KEPT', 'CHANGED', 'LOST'];
const LOOK: Record<Verdict, string> = { KEPT: 'kept', CHANGED: 'change', LOST: 'loss' };
/** Rows that are asked for at first, and how many times as many next. */
const FIRST_ROWS = 500;
const MORE = 4;

interface PillsProps {
  count: (verdict: Verdict) => number;
  only: Verdict | null;
  onOnly: (verdict: Verdict | null) => void;
}

/** How many facts there are of each verdict; a click shows only those. */
export function VerdictPills({ count, only, onOnly }: PillsProps) {
  return VERDICTS.map((v) => (
    <button
      key={v}
      type="button"
      className={`pill pill-${count(v) > 0 ? LOOK[v] : 'plain'}`}
      aria-pressed={only === v}
      title={`Only what was ${v.toLowerCase()}`}
      onClick={() => onOnly(only === v ? null : v)}
    >
      {count(v)} {v.toLowerCase()}
    </button>
  ));
}

interface ToolsProps {
  wanted: string;
  onWanted: (text: string) => void;
  /** Address of the ledger as a file, without its ending. */
  file: string;
  title: string;
  /** Address of the landing, which can be handed over in more forms; the survey's ledger has none. */
  landing?: string;
}

/** The search field, and the ledger as a file. */
export function LedgerTools({ wanted, onWanted, file, title, landing }: ToolsProps) {
  return (
    <>
      <Form.Control
        size="sm"
        placeholder="Find a fact"
        aria-label="Find a fact"
        value={wanted}
        style={{ width: 130 }}
        onChange={(e) => onWanted(e.target.value)}
      />
      {landing ? (
        <HandOver landing={landing} file={file} />
      ) : (
        ['html', 'csv', 'json'].map((kind) => (
          <Button
            key={kind}
            variant="outline-secondary"
            href={`${file}.${kind}`}
            title={`The ledger of “${title}” as ${kind.toUpperCase()}`}
          >
            {kind.toUpperCase()}
          </Button>
        ))
      )}
    </>
  );
}

/** What can be given to others with a landing, or in place of it. */
function HandOver({ landing, file }: { landing: string; file: string }) {
  const forms = [
    [`${landing}/page.html`, 'Page with the asset', 'to turn, play and look at, without a server'],
    [
      `${landing}/page.html?of=PROOF`,
      'Page with both sides',
      'near and landed with the seam between them',
    ],
    [`${landing}/report.html`, 'Report', 'pictures of both sides, all facts, hashes; prints'],
    [`${file}.csv`, 'Ledger as CSV', 'all facts, for a sheet'],
    [`${file}.json`, 'Ledger as JSON', 'all facts, for a program'],
  ] as const;
  return (
    <Dropdown className="hand-over">
      <Dropdown.Toggle size="sm" variant="outline-secondary" id="hand-over">
        Hand over
      </Dropdown.Toggle>
      <Dropdown.Menu popperConfig={{ strategy: 'fixed' }} renderOnMount>
        {forms.map(([href, label, help]) => (
          <Dropdown.Item key={href} href={href} download>
            {label} <span className="quiet">{help}</span>
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** The rows that fit, with how many there are; more are asked for by a click. */
export function useLedger(id: string, of: LedgerOf | null, revision: number) {
  const [only, setOnly] = useState<Verdict | null>(null);
  const [wanted, setWanted] = useState('');
  const [count, setCount] = useState(FIRST_ROWS);
  const find = useDeferredValue(wanted);
  const page = useQuery({
    ...queries.ledger(id, of ?? { sides: true }, revision, { verdict: only, find, count }),
    enabled: of !== null,
  });
  return {
    page: of === null ? undefined : page.data,
    error: page.error,
    only,
    setOnly,
    wanted,
    setWanted,
    more: () => setCount(count * MORE),
  };
}

interface Props {
  id: string;
  page: LedgerPage | undefined;
  onMore: () => void;
}

/** Near, far and landed, fact by fact, with the verdict; a click on a fact shows its part. */
export function LedgerTable({ id, page, onMore }: Props) {
  const [open, setOpen] = useState<number | null>(null);
  const set = useView((s) => s.set);
  const find = useFind(id);
  const groups = useMemo(() => {
    const result: { name: string; rows: { row: LedgerRow; index: number }[] }[] = [];
    (page?.rows ?? []).forEach((row, index) => {
      const last = result.at(-1);
      if (last?.name === row.group) {
        last.rows.push({ row, index });
      } else {
        result.push({ name: row.group, rows: [{ row, index }] });
      }
    });
    return result;
  }, [page]);
  const pick = (row: LedgerRow, index: number) => {
    setOpen(open === index ? null : index);
    if (row.nodeId >= 0) {
      set({ selected: [row.nodeId], finding: null });
      window.setTimeout(() => find(), 0);
    }
  };
  const left = page ? page.fitting - page.rows.length : 0;
  return (
    <div className="quayside-body">
      <Table hover className="fixed">
        <colgroup>
          {['21%', '14%', '15%', '16%', '12%', 'auto'].map((width) => (
            <col key={width} style={{ width }} />
          ))}
        </colgroup>
        <thead>
          <tr>
            <th>Fact</th>
            <th className="num">Near</th>
            <th className="num">Far</th>
            <th className="num">Landed</th>
            <th className="num">Differs</th>
            <th>Verdict</th>
          </tr>
        </thead>
        <tbody>
          {groups.map((g) => {
            return (
              <Fragment key={`${g.name}-${g.rows[0]?.index}`}>
                <tr className="group-row">
                  <td colSpan={6}>{g.name}</td>
                </tr>
                {g.rows.map(({ row, index }) => (
                  <tr
                    key={index}
                    tabIndex={0}
                    data-verdict={row.verdict}
                    className={open === index ? 'open' : ''}
                    onClick={() => pick(row, index)}
                    onKeyDown={(e) => e.key === 'Enter' && pick(row, index)}
                  >
                    <td>{row.fact}</td>
                    <td className="num">{row.near}</td>
                    <td className="num">{row.far}</td>
                    <td className="num">{row.landed}</td>
                    <td className="num">{row.differs}</td>
                    <td title={row.note}>
                      <span className={`pill pill-${LOOK[row.verdict]}`}>
                        {row.verdict.toLowerCase()}
                      </span>{' '}
                      <span className="quiet">{row.note}</span>
                    </td>
                  </tr>
                ))}
              </Fragment>
            );
          })}
        </tbody>
      </Table>
      {left > 0 && (
        <p className="empty-note">
          {left} more.{' '}
          <Button variant="outline-secondary" onClick={onMore}>
            Show more
          </Button>
        </p>
      )}
      {page?.fitting === 0 && <p className="empty-note">No fact fits the filter.</p>}
    </div>
  );
}
