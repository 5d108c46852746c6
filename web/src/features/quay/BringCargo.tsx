import { useQuery } from '@tanstack/react-query';
import { type RefObject, useRef, useState } from 'react';
import { useNavigate } from 'react-router-dom';
import { queries } from '../../api/queries';
import { type Incoming, newCrossing } from '../../api/upload';
import { Button } from '../../shared/Button';
import { FileInputs } from '../../shared/FileInputs';
import { bytes } from '../../shared/format';
import { complain } from '../../shared/Notices';
import { Progress } from '../../shared/Progress';
import { usePageDrop } from '../../shared/usePageDrop';

interface Sending {
  sent: number;
  total: number;
  path: string;
}

interface Props {
  /** Set to what opens the file dialogue, for the key and the button above. */
  choose: RefObject<() => void>;
}

/** Where files are dropped; the whole page takes them. */
export function BringCargo({ choose }: Props) {
  const navigate = useNavigate();
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const abort = useRef<AbortController | null>(null);
  const [sending, setSending] = useState<Sending | null>(null);
  const names = (useQuery(queries.formats()).data ?? []).filter((f) => f.reads).map((f) => f.name);
  choose.current = () => files.current?.click();

  const take = async (incoming: Incoming[]) => {
    if (incoming.length === 0 || abort.current) {
      return;
    }
    const controller = new AbortController();
    abort.current = controller;
    setSending({ sent: 0, total: 1, path: incoming[0]?.path ?? '' });
    try {
      const crossing = await newCrossing(incoming, controller.signal, (sent, total, path) =>
        setSending({ sent, total, path }),
      );
      navigate(`/crossings/${crossing.id}/cargo`);
    } catch (error) {
      complain(error);
    } finally {
      abort.current = null;
      setSending(null);
    }
  };
  const over = usePageDrop(take);

  return (
    <>
      <h2 className="caps">Bring cargo</h2>
      <div className={`slip ${over ? 'slip-over' : ''}`}>
        <h2>Drop files, a folder or a zip</h2>
        <p className="quiet">
          {names.length > 0 &&
            `${names.slice(0, -1).join(', ')} or ${names[names.length - 1]}, with `}
          materials and textures. Everything that belongs together, at once.
        </p>
        {sending ? (
          <>
            <Progress
              label="Sending the files"
              fraction={sending.sent / Math.max(1, sending.total)}
            />
            <p className="quiet my-2">
              {bytes(sending.sent)} of {bytes(sending.total)} · {sending.path}
            </p>
            <Button variant="outline-secondary" onClick={() => abort.current?.abort()}>
              Cancel
            </Button>
          </>
        ) : (
          <div className="d-flex gap-2 justify-content-center">
            <Button onClick={() => files.current?.click()}>Choose files</Button>
            <Button variant="outline-secondary" onClick={() => folder.current?.click()}>
              Choose folder
            </Button>
          </div>
        )}
        <FileInputs take={take} files={files} folder={folder} />
      </div>
    </>
  );
}
