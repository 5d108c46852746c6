import { useEffect, useState } from 'react';
import { getBytes } from '../../../api/client';
import { complain } from '../../../shared/Notices';
import { addFrames, type Motion } from '../../../view3d/data/motionBlock';
import { PointStream } from '../../../view3d/data/pointStream';

/** Fetches the frames of a clip for one state, block by block; what is there can be played. */
export function useMotion(
  crossingId: string,
  state: string,
  clip: number | null,
  revision: number,
): Motion | null {
  const [motion, setMotion] = useState<Motion | null>(null);
  useEffect(() => {
    let live = true;
    setMotion(null);
    const stream = (id: number, frames: number, block: number) =>
      new PointStream(
        (from, count) =>
          getBytes(
            `/api/crossings/${crossingId}/points?side=${encodeURIComponent(state)}&clip=${id}&from=${from}&count=${count}`,
          ),
        frames,
        block,
        // What is shown is drawn again with what has come.
        () => live && setMotion((m) => m && { ...m }),
        (e) => live && complain(e),
      );
    const load = async (id: number) => {
      let all: Motion | null = null;
      while (live && (all === null || all.loaded < all.frames)) {
        const from: number = all?.loaded ?? 0;
        const buffer = await getBytes(
          `/api/crossings/${crossingId}/motion?side=${encodeURIComponent(state)}&clip=${id}&from=${from}`,
        );
        all = addFrames(all, buffer);
        if (all.pointBlock > 0 && !all.stream) {
          all = { ...all, stream: stream(id, all.frames, all.pointBlock) };
        }
        if (live) {
          setMotion(all);
        }
      }
    };
    if (clip !== null) {
      load(clip).catch((e: Error) => live && complain(e));
    }
    return () => {
      live = false;
    };
    // Another revision may have moved the far side.
  }, [crossingId, state, clip, revision]);
  return motion;
}
