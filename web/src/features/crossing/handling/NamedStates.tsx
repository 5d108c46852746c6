import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { type NamedState, sendJson } from '../../../api/client';
import { queries } from '../../../api/queries';
import { Button } from '../../../shared/Button';
import { when } from '../../../shared/format';
import { complain } from '../../../shared/Notices';
import { useView } from '../../../view3d/viewState';

/** States under a name: keep the handling as it is, see it beside another, return to it. */
export function NamedStates({ id }: { id: string }) {
  const states = useQuery(queries.states(id));
  const client = useQueryClient();
  const [name, setName] = useState('');
  const set = useView((s) => s.set);
  const shown = useView((s) => s.states);
  const known = (list: NamedState[]) => client.setQueryData(queries.states(id).queryKey, list);
  const keep = () => {
    if (name.trim()) {
      sendJson<NamedState[]>('POST', `/api/crossings/${id}/states`, { name })
        .then((list) => {
          known(list);
          setName('');
        })
        .catch(complain);
    }
  };
  const restore = (state: string) =>
    sendJson('POST', `/api/crossings/${id}/states/${state}/restore`)
      .then(() => client.invalidateQueries({ queryKey: ['crossing', id] }))
      .catch(complain);
  const remove = (state: string) => {
    const ref = `named:${state}`;
    set({
      states: {
        near: shown.near === ref ? 'near' : shown.near,
        far: shown.far === ref ? 'now' : shown.far,
      },
    });
    sendJson<NamedState[]>('DELETE', `/api/crossings/${id}/states/${state}`)
      .then(known)
      .catch(complain);
  };
  return (
    <section className="named-states" aria-label="Kept states">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <span className="caps">Kept states</span>
        <Form.Control
          size="sm"
          aria-label="Name for the handling as it is now"
          placeholder="Name for now"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" variant="outline-secondary" disabled={!name.trim()}>
          Keep as it is
        </Button>
      </form>
      {(states.data ?? []).map((s) => (
        <div key={s.id} className="named-state">
          <b>{s.name}</b>
          <span className="quiet">
            {s.steps.length} {s.steps.length === 1 ? 'step' : 'steps'} · {when(s.createdAt)}
          </span>
          <Button
            variant="link"
            size="sm"
            title="Show it in the left view, beside the far side"
            onClick={() => set({ states: { near: `named:${s.id}`, far: 'now' }, layout: 'both' })}
          >
            Compare
          </Button>
          <Button
            variant="link"
            size="sm"
            title="Make it the handling again; that can be undone"
            onClick={() => restore(s.id)}
          >
            Return to it
          </Button>
          <Button variant="link" size="sm" onClick={() => remove(s.id)}>
            Delete
          </Button>
        </div>
      ))}
    </section>
  );
}
