// node read-flat.mjs FILE : what three's STLLoader, PLYLoader or OBJLoader with MTLLoader makes of a
// file: triangles, box, area, the mean of each layer, and the materials with their colours.
import fs from 'node:fs';
import { BufferAttribute, BufferGeometry, Color } from 'three';
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';

const file = process.argv[2];
const bytes = fs.readFileSync(file);
const data = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
const materials = [];
const geometry = file.endsWith('.stl')
  ? new STLLoader().parse(data)
  : file.endsWith('.obj')
    ? objects(bytes.toString())
    : new PLYLoader().parse(data);

// All faces of all objects as one geometry; the library is read beside.
function objects(text) {
  const library = file.replace(/obj$/, 'mtl');
  const loader = new OBJLoader();
  if (fs.existsSync(library)) {
    const creator = new MTLLoader().parse(fs.readFileSync(library, 'utf8'), '');
    for (const [name, info] of Object.entries(creator.materialsInfo)) {
      const kd = info.kd ?? [1, 1, 1];
      materials.push({ name, kd: new Color(...kd.map(Number)).toArray(), map: info.map_kd ?? null });
    }
  }
  const meshes = [];
  loader.parse(text).traverse((o) => o.isMesh && meshes.push(o));
  const parts = meshes.map((m) => m.geometry);
  const names = ['position', 'normal', 'uv', 'color'].filter((n) => parts.every((g) => g.getAttribute(n)));
  const joined = new BufferGeometry();
  for (const name of names) {
    const all = parts.flatMap((g) => Array.from(g.getAttribute(name).array));
    joined.setAttribute(name, new BufferAttribute(new Float32Array(all), parts[0].getAttribute(name).itemSize));
  }
  joined.userData.used = [...new Set(meshes.flatMap((m) => [m.material].flat().map((x) => x.name)))];
  return joined;
}
const flat = geometry.index ? geometry.toNonIndexed() : geometry;
const p = flat.getAttribute('position');
const min = [Infinity, Infinity, Infinity];
const max = [-Infinity, -Infinity, -Infinity];
let area = 0;
for (let t = 0; t < p.count; t += 3) {
  const at = [0, 1, 2].map((k) => [p.getX(t + k), p.getY(t + k), p.getZ(t + k)]);
  for (const point of at) {
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k], point[k]);
      max[k] = Math.max(max[k], point[k]);
    }
  }
  const u = [0, 1, 2].map((k) => at[1][k] - at[0][k]);
  const v = [0, 1, 2].map((k) => at[2][k] - at[0][k]);
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  area += Math.hypot(...n) / 2;
}
const mean = (name) => {
  const a = flat.getAttribute(name);
  if (!a) {
    return null;
  }
  const sums = new Array(a.itemSize).fill(0);
  for (let i = 0; i < a.count; i++) {
    for (let k = 0; k < a.itemSize; k++) {
      sums[k] += a.getComponent(i, k) / a.count;
    }
  }
  return sums;
};
console.log(
  JSON.stringify({
    triangles: p.count / 3,
    vertices: geometry.getAttribute('position').count,
    solids: geometry.groups.length,
    materials,
    used: geometry.userData.used ?? [],
    min,
    max,
    area,
    normal: mean('normal'),
    uv: mean('uv'),
    colour: mean('color'),
  }),
);
