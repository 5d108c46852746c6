import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { type Crossing, sendJson } from '../../api/client';
import { complain } from '../../shared/Notices';

/** The crossing's name, changed in place. */
export function CrossingName({ crossing }: { crossing: Crossing }) {
  const client = useQueryClient();
  const [name, setName] = useState(crossing.name);
  useEffect(() => setName(crossing.name), [crossing.name]);
  const save = () => {
    if (name.trim() === crossing.name) {
      return;
    }
    sendJson<Crossing>('PATCH', `/api/crossings/${crossing.id}`, { name })
      .then((c) => client.setQueryData(['crossing', crossing.id], c))
      .catch((e) => {
        setName(crossing.name);
        complain(e);
      });
  };
  const s = crossing.summary;
  return (
    <div className="crossing-name">
      <input
        value={name}
        aria-label="Name of the crossing"
        onChange={(e) => setName(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      {s && (
        <span>
          {s.files} {s.files === 1 ? 'file' : 'files'} · {s.from}
          {s.landed ? ` → ${s.landed}` : ''}
        </span>
      )}
    </div>
  );
}
