// Makes tangents.json with the npm package mikktspace 1.1.1, the reference implementation in
// WebAssembly: npm install mikktspace, then node make-tangents.cjs > tangents.json
const { generateTangents } = require('mikktspace');

let state = 7;
const random = () => {
  state = (state * 1103515245 + 12345) % 2147483648;
  return state / 2147483648;
};
const round = (v) => Math.round(v * 1e4) / 1e4;

/** A grid of quads as triangles, with a point, normal and UV for each place in it. */
function grid(nu, nv, at) {
  const corners = [];
  const corner = (i, j) => corners.push(at(i, j));
  for (let i = 0; i < nu; i++) {
    for (let j = 0; j < nv; j++) {
      corner(i, j), corner(i + 1, j), corner(i + 1, j + 1);
      corner(i, j), corner(i + 1, j + 1), corner(i, j + 1);
    }
  }
  return corners;
}

function torus(i, j) {
  const a = (2 * Math.PI * i) / 10;
  const b = (2 * Math.PI * j) / 6;
  const n = [Math.cos(a) * Math.cos(b), Math.sin(b), Math.sin(a) * Math.cos(b)];
  const p = [Math.cos(a) * (2 + Math.cos(b)), Math.sin(b), Math.sin(a) * (2 + Math.cos(b))];
  // The second half is mirrored in the image.
  const u = i <= 5 ? i / 5 : 2 - i / 5;
  return { p, n, uv: [u, j / 6] };
}

const heights = new Map();
function crumpled(i, j) {
  const key = i + '/' + j;
  if (!heights.has(key)) {
    heights.set(key, [random() - 0.5, random() - 0.5, random() - 0.5, random(), random()]);
  }
  const h = heights.get(key);
  const n = [h[1], 1.5, h[2]];
  const length = Math.hypot(...n);
  // Some neighbours share a UV, so that their triangles have no area there.
  const still = (i + j) % 5 === 0;
  return {
    p: [i, h[0], j],
    n: n.map((x) => x / length),
    uv: still ? [0.5, 0.5] : [i / 6 + 0.1 * h[3], j / 6 + 0.1 * h[4]],
  };
}

const flat = (i, j) => ({
  // Two columns at one place: triangles without area.
  p: [i === 2 ? 1 : i, 0, j],
  n: [0, 1, 0],
  uv: [i / 4, 1 - j / 4],
});

const cases = { torus: grid(10, 6, torus), crumpled: grid(6, 6, crumpled), flat: grid(4, 3, flat) };
const all = {};
for (const [name, corners] of Object.entries(cases)) {
  const list = (of) => corners.flatMap((c) => of(c).map(round));
  const positions = new Float32Array(list((c) => c.p));
  const normals = new Float32Array(corners.flatMap((c) => c.n));
  const uvs = new Float32Array(list((c) => c.uv));
  all[name] = {
    positions: [...positions],
    normals: [...normals],
    uvs: [...uvs],
    tangents: [...generateTangents(positions, normals, uvs)].map((v) => Math.round(v * 1e6) / 1e6),
  };
}
console.log(JSON.stringify(all));
