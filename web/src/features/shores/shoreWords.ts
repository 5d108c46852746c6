import type { Shore } from '../../api/client';

/** Limits of a shore in words. */
export const BUDGETS: { name: keyof Shore['budgets']; label: string }[] = [
  { name: 'fileBytes', label: 'Bytes of all files' },
  { name: 'triangles', label: 'Triangles' },
  { name: 'vertices', label: 'Vertices' },
  { name: 'joints', label: 'Joints of a skin' },
  { name: 'influences', label: 'Joints a vertex' },
  { name: 'morphs', label: 'Morph targets a mesh' },
  { name: 'textureSize', label: 'Longest side of images, px' },
  { name: 'materialsPerMesh', label: 'Materials a mesh' },
  { name: 'skinMove', label: 'Skin may move, mm at 1.75 m (0: not at all)' },
];

/** What a shore lets differ, in words. */
export const TOLERANCES: { name: keyof Shore['tolerances']; label: string }[] = [
  { name: 'apart', label: 'Surfaces and points apart, mm' },
  { name: 'turned', label: 'Normals and directions turned, °' },
  { name: 'uv', label: 'UVs apart, parts of the image' },
  { name: 'values', label: 'Colours, factors and weights, of 1' },
  { name: 'seenFrom', label: 'Seen from, m' },
];

/** Wishes of a shore in words. */
export const WISHES: { name: keyof Shore['wishes']; label: string }[] = [
  { name: 'triangulate', label: 'Faces cut into triangles' },
  { name: 'embedTextures', label: 'Textures inside the file' },
  { name: 'onRoot', label: 'Unit and axes on one root part' },
  { name: 'oneRoot', label: 'All parts under one root' },
  { name: 'detailGroups', label: 'Versions bundled as detail levels' },
];
