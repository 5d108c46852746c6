// Packs small data with the npm package meshoptimizer 1.3.0 (MIT): node make-meshopt.mjs writes
// meshopt.json, which MeshoptTest unpacks.
import { MeshoptEncoder } from 'meshoptimizer';
import fs from 'node:fs';
await MeshoptEncoder.ready;
const b64 = (u8) => Buffer.from(u8.buffer, u8.byteOffset, u8.byteLength).toString('base64');
let seed = 12345; const rnd = () => (seed = (seed * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff;
const side = 12; const idx = [];
for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) { const a = y * (side + 1) + x; idx.push(a, a + 1, a + side + 2, a, a + side + 2, a + side + 1); }
const out = {};
const add = (name, data, count, stride, mode, packed, filter = 'NONE') => { out[name] = { count, stride, mode, filter, packed: b64(packed), plain: b64(data) }; };
const indices = new Uint32Array(idx);
const r = MeshoptEncoder.encodeIndexBuffer(new Uint8Array(indices.buffer), indices.length, 4);
add('triangles', new Uint8Array(indices.buffer), indices.length, 4, 'TRIANGLES', r);
const far = new Uint32Array(Array.from({ length: 300 }, () => Math.floor(rnd() * 5000)));
add('scattered', new Uint8Array(far.buffer), far.length, 4, 'TRIANGLES', MeshoptEncoder.encodeIndexBuffer(new Uint8Array(far.buffer), far.length, 4));
const seq = new Uint32Array(Array.from({ length: 200 }, (_, i) => (i % 2 ? 1000 + i : i)));
add('sequence', new Uint8Array(seq.buffer), seq.length, 4, 'INDICES', MeshoptEncoder.encodeIndexSequence(new Uint8Array(seq.buffer), seq.length, 4));
const pos = new Float32Array(3 * 300); for (let i = 0; i < pos.length; i++) pos[i] = Math.fround(Math.sin(i / 7) + rnd() * 0.01);
add('positions', new Uint8Array(pos.buffer), 300, 12, 'ATTRIBUTES', MeshoptEncoder.encodeGltfBuffer(new Uint8Array(pos.buffer), 300, 12, 'ATTRIBUTES', 0));
const n = new Float32Array(4 * 100); for (let i = 0; i < 100; i++) { const v = [rnd() - .5, rnd() - .5, rnd() - .5]; const l = Math.hypot(...v); n.set([v[0] / l, v[1] / l, v[2] / l, 0], 4 * i); }
const oct = MeshoptEncoder.encodeFilterOct(n, 100, 8, 16);
add('normals', new Uint8Array(n.buffer), 100, 8, 'ATTRIBUTES', MeshoptEncoder.encodeGltfBuffer(oct, 100, 8, 'ATTRIBUTES', 0), 'OCTAHEDRAL');
const q = new Float32Array(4 * 100); for (let i = 0; i < 100; i++) { const v = [rnd() - .5, rnd() - .5, rnd() - .5, rnd() - .5]; const l = Math.hypot(...v); q.set(v.map((x) => x / l), 4 * i); }
add('rotations', new Uint8Array(q.buffer), 100, 8, 'ATTRIBUTES', MeshoptEncoder.encodeGltfBuffer(MeshoptEncoder.encodeFilterQuat(q, 100, 8, 16), 100, 8, 'ATTRIBUTES', 0), 'QUATERNION');
const e = new Float32Array(3 * 100); for (let i = 0; i < e.length; i++) e[i] = (rnd() - .5) * 100;
add('places', new Uint8Array(e.buffer), 100, 12, 'ATTRIBUTES', MeshoptEncoder.encodeGltfBuffer(MeshoptEncoder.encodeFilterExp(e, 100, 12, 15), 100, 12, 'ATTRIBUTES', 0), 'EXPONENTIAL');
fs.writeFileSync('meshopt.json', JSON.stringify(out, null, 1));
console.log(Object.entries(out).map(([k, v]) => k + ' ' + Buffer.from(v.packed, 'base64')[0].toString(16)), fs.statSync('meshopt.json').size);
