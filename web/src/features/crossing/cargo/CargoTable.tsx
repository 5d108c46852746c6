import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { CloseButton, Form, Table } from 'react-bootstrap';
import { type CargoView, type Crossing, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { bring, filesOfInput, type Incoming } from '../../../api/upload';
import { Button } from '../../../shared/Button';
import { bytes } from '../../../shared/format';
import { complain } from '../../../shared/Notices';
import { QuaysideHead } from '../QuaysideHead';
import { CompositionFields } from './CompositionFields';
import { ReadingFields } from './ReadingFields';
import { TAKEN, withTaken } from './taken';

/** The files, the part each plays, and what they name but is not there. */
export function CargoTable({ id, crossing }: { id: string; crossing: Crossing }) {
  const cargo = useQuery(queries.cargo(id, crossing.state));
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [sending, setSending] = useState<string | null>(null);
  const add = async (files: Incoming[]) => {
    if (files.length === 0) {
      return;
    }
    try {
      await bring(id, files, new AbortController().signal, (sent, total) =>
        setSending(`${bytes(sent)} of ${bytes(total)}`),
      );
    } catch (error) {
      complain(error);
    } finally {
      setSending(null);
      void client.invalidateQueries({ queryKey: ['crossing', id] });
    }
  };
  const bind = (reference: string, file: string) =>
    sendJson('PUT', `/api/crossings/${id}/bindings`, { reference, file })
      .then(() => client.invalidateQueries({ queryKey: ['crossing', id] }))
      .catch(complain);
  const remove = (path: string) =>
    sendJson('DELETE', `/api/crossings/${id}/files?path=${encodeURIComponent(path)}`)
      .then(() => sendJson('POST', `/api/crossings/${id}/read`))
      .catch(complain)
      .finally(() => client.invalidateQueries({ queryKey: ['crossing', id] }));
  // While it is read again nothing is known of it: what was there stays to be seen.
  const reading = crossing.state === 'reading';
  const composition = useRef(cargo.data?.composition);
  useEffect(() => {
    if (!reading && cargo.data) {
      composition.current = cargo.data.composition;
    }
  }, [reading, cargo.data]);
  const composed =
    cargo.data && reading && composition.current
      ? { ...cargo.data, composition: composition.current }
      : cargo.data;
  const files = cargo.data?.files ?? [];
  const taken = String(cargo.data?.options.taken ?? '');
  const take = (text: string) =>
    sendJson('PUT', `/api/crossings/${id}/reading`, { taken: text })
      .catch(complain)
      .finally(() => client.invalidateQueries({ queryKey: ['crossing', id] }));
  const missing = (cargo.data?.references ?? []).filter((r) => r.found === null);
  const chosen = (cargo.data?.references ?? []).filter((r) => r.chosen);
  return (
    <>
      <QuaysideHead title="Cargo">
        <span className="pill pill-plain">
          {files.length} {files.length === 1 ? 'file' : 'files'}
        </span>
        {missing.length > 0 && <span className="pill pill-loss">{missing.length} not found</span>}
        {crossing.state === 'failed' && <span className="pill pill-loss">could not be read</span>}
        <span className="end">
          {sending && <span className="quiet">{sending}</span>}
          <Button variant="outline-secondary" onClick={() => input.current?.click()}>
            Add files
          </Button>
          {files.length > 0 && (
            <Button
              variant="outline-secondary"
              disabled={crossing.state === 'reading'}
              onClick={() => sendJson('POST', `/api/crossings/${id}/read`).catch(complain)}
            >
              Read again
            </Button>
          )}
        </span>
        <input
          ref={input}
          type="file"
          multiple
          hidden
          aria-label="Add files"
          onChange={(e) => {
            void add(filesOfInput(e.target.files));
            e.target.value = '';
          }}
        />
      </QuaysideHead>
      <div className="quayside-body">
        {crossing.state === 'failed' && <p className="empty-note loss">{crossing.problem}</p>}
        {cargo.data && (
          <ReadingFields id={id} cargo={cargo.data} disabled={crossing.state === 'reading'} />
        )}
        {composed && (
          <CompositionFields id={id} cargo={composed} disabled={crossing.state === 'reading'} />
        )}
        <Table>
          <thead>
            <tr>
              <th>File</th>
              <th>Part it plays</th>
              <th>Used for</th>
              <th className="num">Size</th>
              <th aria-label="Remove" />
            </tr>
          </thead>
          <tbody>
            {missing.map((r) => (
              <MissingRow key={r.written} reference={r} onBind={bind} />
            ))}
            {chosen.map((r) => (
              <tr key={`chosen-${r.written}`}>
                <td title={r.written}>{r.written}</td>
                <td>
                  <span className="pill pill-change">chosen</span>
                </td>
                <td>{r.found}</td>
                <td className="num">
                  <Button variant="link" className="py-0" onClick={() => bind(r.written, '')}>
                    Take back
                  </Button>
                </td>
                <td />
              </tr>
            ))}
            {files.map((f) => (
              <tr key={f.path}>
                <td title={f.path}>{f.path}</td>
                <td className={f.role === 'OTHER' ? 'quiet' : ''}>
                  {f.taken ? (
                    <Form.Select
                      size="sm"
                      aria-label={`Taken of ${f.path}`}
                      disabled={crossing.state === 'reading'}
                      value={f.taken}
                      onChange={(e) => take(withTaken(taken, f.path, e.target.value))}
                    >
                      {TAKEN.map((t) => (
                        <option key={t.value} value={t.value}>
                          {f.roleLabel}: {t.label}
                        </option>
                      ))}
                    </Form.Select>
                  ) : (
                    f.roleLabel
                  )}
                </td>
                <td className="quiet" title={f.usedFor.join(', ')}>
                  {f.usedFor.join(', ') || (f.role === 'TEXTURE' ? 'nothing names it' : '')}
                </td>
                <td className="num">{bytes(f.size)}</td>
                <td className="num">
                  <CloseButton
                    style={{ fontSize: '0.55rem' }}
                    aria-label={`Remove ${f.path} and read again`}
                    title="Remove and read again"
                    disabled={crossing.state === 'reading'}
                    onClick={() => remove(f.path)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </>
  );
}

interface MissingProps {
  reference: CargoView['references'][number];
  onBind: (reference: string, file: string) => void;
}

function MissingRow({ reference: { written, proposals }, onBind }: MissingProps) {
  return (
    <tr>
      <td title={written}>{written}</td>
      <td>
        <span className="pill pill-loss">not found</span>
      </td>
      <td>
        <Form.Select
          size="sm"
          aria-label={`File for ${written}`}
          value=""
          onChange={(e) => onBind(written, e.target.value)}
        >
          <option value="">Choose the file it became …</option>
          {proposals.map((p) => (
            <option key={p} value={p}>
              {p}
            </option>
          ))}
        </Form.Select>
      </td>
      <td />
      <td />
    </tr>
  );
}
