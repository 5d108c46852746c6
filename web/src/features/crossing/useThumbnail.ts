import { useEffect, useRef } from 'react';
import type { SideView } from '../../api/client';
import { texturesQuietFor } from '../../view3d/materials';

const WIDTH = 152;
const HEIGHT = 104;
const SETTLE_MS = 1500;

/** Sends a small picture of the far side for the quay, once the view has settled. */
export function useThumbnail(id: string, ready: boolean, side: SideView | undefined) {
  const sent = useRef<SideView | undefined>(undefined);
  useEffect(() => {
    if (!ready || !side || sent.current === side) {
      return;
    }
    let timer = 0;
    const settle = () => {
      timer = window.setTimeout(
        () => (texturesQuietFor() < SETTLE_MS ? settle() : send()),
        SETTLE_MS,
      );
    };
    const send = () => {
      const canvas = document.querySelector<HTMLCanvasElement>('.view[data-side="far"] canvas');
      if (!canvas || canvas.clientWidth === 0) {
        return;
      }
      const small = document.createElement('canvas');
      small.width = WIDTH;
      small.height = HEIGHT;
      const c = small.getContext('2d');
      if (!c) {
        return;
      }
      const scale = Math.max(WIDTH / canvas.width, HEIGHT / canvas.height);
      const [w, h] = [canvas.width * scale, canvas.height * scale];
      c.fillStyle = '#dfe5e4';
      c.fillRect(0, 0, WIDTH, HEIGHT);
      c.drawImage(canvas, (WIDTH - w) / 2, (HEIGHT - h) / 2, w, h);
      small.toBlob((blob) => {
        if (blob) {
          sent.current = side;
          // A missing picture is no fault worth a message.
          void fetch(`/api/crossings/${id}/thumbnail`, {
            method: 'PUT',
            headers: { 'Content-Type': 'image/png' },
            body: blob,
          }).catch(() => undefined);
        }
      }, 'image/png');
    };
    settle();
    return () => window.clearTimeout(timer);
  }, [id, ready, side]);
}
