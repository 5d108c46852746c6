import type { About } from './about';

/** Elements that hold a side, in their order. */
const partsOf = (side: number) => [
  ...document.querySelectorAll<HTMLScriptElement>(`script[data-side="${side}"]`),
];

/** Base64 as bytes. */
export function bytesOf(base64: string): Uint8Array<ArrayBuffer> {
  const text = atob(base64.trim());
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) {
    bytes[i] = text.charCodeAt(i);
  }
  return bytes;
}

/** Calls back when the page has more, and when all of it is there. */
function onMore(look: () => void): () => void {
  const observer = new MutationObserver(look);
  observer.observe(document.documentElement, { childList: true, subtree: true });
  document.addEventListener('readystatechange', look);
  return () => {
    observer.disconnect();
    document.removeEventListener('readystatechange', look);
  };
}

/**
 * Unpacks a side while the page still arrives. An element is taken when the next one begins, for only
 * then is it whole; taken ones leave the page, so that it does not hold the asset twice.
 *
 * @param told gets the share that has arrived, 0 to 1
 */
export async function arrive(
  about: About,
  side: number,
  told: (share: number) => void,
): Promise<ArrayBuffer> {
  const all = about.sides[side]?.glbBytes ?? 0;
  const glb = new Uint8Array(all);
  let filled = 0;
  const unpacking = new DecompressionStream('gzip');
  const filling = (async () => {
    const out = unpacking.readable.getReader();
    for (let next = await out.read(); !next.done; next = await out.read()) {
      if (filled + next.value.length > all) {
        throw cut(filled + next.value.length, all);
      }
      glb.set(next.value, filled);
      filled += next.value.length;
    }
  })();
  const into = unpacking.writable.getWriter();
  const packed = feed(about, side, into, (bytes) => told(all > 0 ? Math.min(1, bytes / all) : 1));
  try {
    await Promise.all([packed, filling]);
  } catch (e) {
    throw e instanceof Cut ? e : cut(filled, all);
  }
  if (filled !== all) {
    throw cut(filled, all);
  }
  return glb.buffer;
}

async function feed(
  about: About,
  side: number,
  into: WritableStreamDefaultWriter<BufferSource>,
  told: (bytes: number) => void,
) {
  for (;;) {
    const parts = partsOf(side);
    const whole = document.readyState !== 'loading';
    const later = side + 1 < about.sides.length && partsOf(side + 1).length > 0;
    const ready = whole || later ? parts : parts.slice(0, -1);
    for (const part of ready) {
      await into.write(bytesOf(part.textContent ?? ''));
      told(Number(part.dataset.upto));
      part.remove();
      // Lets the page draw how far it is.
      await new Promise((next) => setTimeout(next, 0));
    }
    if (whole || later) {
      await into.close();
      return;
    }
    // What came while others were unpacked is taken at once; only then there is something to wait for.
    if (ready.length === 0) {
      await new Promise<void>((next) => {
        const stop = onMore(() => {
          stop();
          next();
        });
      });
    }
  }
}

class Cut extends Error {}

function cut(filled: number, all: number): Cut {
  return new Cut(
    `The page is cut short or damaged: ${filled.toLocaleString('en')} of ${all.toLocaleString('en')} bytes of the asset are there. Ask for the file again.`,
  );
}
