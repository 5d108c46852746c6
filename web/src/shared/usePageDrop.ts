import { useEffect, useRef, useState } from 'react';
import { filesOfDrop, type Incoming } from '../api/upload';
import { complain } from './Notices';

/** Takes what is dropped anywhere on the page; whether something is held over it. */
export function usePageDrop(take: (files: Incoming[]) => Promise<void> | void): boolean {
  const [over, setOver] = useState(false);
  const latest = useRef(take);
  latest.current = take;
  useEffect(() => {
    const drag = (e: DragEvent) => {
      if (e.dataTransfer?.types.includes('Files')) {
        e.preventDefault();
        setOver(true);
      }
    };
    const leave = (e: DragEvent) => {
      if (e.relatedTarget === null) {
        setOver(false);
      }
    };
    const drop = (e: DragEvent) => {
      e.preventDefault();
      setOver(false);
      if (e.dataTransfer) {
        filesOfDrop(e.dataTransfer).then((f) => latest.current(f), complain);
      }
    };
    window.addEventListener('dragover', drag);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', drag);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, []);
  return over;
}
