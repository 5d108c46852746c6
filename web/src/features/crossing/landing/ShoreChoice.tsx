import { useQuery } from '@tanstack/react-query';
import { Form } from 'react-bootstrap';
import { Link } from 'react-router-dom';
import { queries } from '../../../api/queries';
import { useFarShore } from './useFarShore';

/** Where the crossing goes: conventions, limits and name rules that all stops hold it against. */
export function ShoreChoice({ id }: { id: string }) {
  const shores = useQuery(queries.shores());
  const { shore, choose } = useFarShore(id);
  return (
    <span className="d-flex gap-2 align-items-center">
      <Form.Select
        size="sm"
        aria-label="Far shore"
        title={shore?.note}
        style={{ width: 270 }}
        value={shore?.id ?? ''}
        onChange={(e) => choose(e.target.value)}
      >
        {(shores.data ?? []).map((s) => (
          <option key={s.shore.id} value={s.shore.id}>
            {s.shore.name}
          </option>
        ))}
      </Form.Select>
      {shore && <Link to={`/shores/${shore.id}`}>What it asks</Link>}
    </span>
  );
}
