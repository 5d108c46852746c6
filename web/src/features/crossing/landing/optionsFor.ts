import type { LandingOptions, Shore } from '../../../api/client';

/** The usual options of a landing on a shore; what the shore does not speak of stays. */
export function optionsFor(shore: Shore, now: LandingOptions): LandingOptions {
  const format = shore.formats[0] ?? 'glb';
  return {
    ...now,
    format,
    embedTextures: shore.wishes.embedTextures,
    embedBuffers: format !== 'gltf',
    transforms: shore.wishes.onRoot ? 'ROOT' : 'DATA',
    influences: shore.budgets.influences === 0 ? 0 : 4 * Math.ceil(shore.budgets.influences / 4),
    skinMove: shore.budgets.skinMove,
    packing: { ...now.packing, largestTexture: shore.budgets.textureSize },
    fbx: {
      ...now.fbx,
      triangulate: shore.wishes.triangulate,
      metresPerUnit: shore.frame.metresPerUnit,
      up: shore.frame.up,
      front: shore.frame.front,
      hand: shore.frame.handedness,
    },
  };
}
